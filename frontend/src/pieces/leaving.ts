/** While something shown is not saved yet, the browser asks before it leaves the page. */
import { useEffect } from "react";

/** isUnsaved: asked when the page is about to go; it may hurry what it can. */
export function useAsksBeforeLeaving(isUnsaved: () => boolean) {
  useEffect(() => {
    const ask = (leaving: BeforeUnloadEvent) => {
      if (isUnsaved()) leaving.preventDefault();
    };
    addEventListener("beforeunload", ask);
    return () => removeEventListener("beforeunload", ask);
  }, [isUnsaved]);
}
