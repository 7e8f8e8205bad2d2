/** A value once it has not changed for a while: for what may wait until a bead is let go. */
import { useEffect, useState } from "react";

const WHILE_MS = 400;

export function useSettled<Value>(value: Value): Value {
  const [settled, setSettled] = useState(value);
  const told = JSON.stringify(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(JSON.parse(told) as Value), WHILE_MS);
    return () => clearTimeout(timer);
  }, [told]);
  return settled;
}
