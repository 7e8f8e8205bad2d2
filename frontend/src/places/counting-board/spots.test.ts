import { expect, test } from "vitest";

import { nearest, together } from "./spots";

test("how far two paths go together", () => {
  expect(together("/on", "/on/reduced")).toBe(1);
  expect(together("/earned/conditions/0", "/earned/conditions/1")).toBe(2);
  expect(together("/when", "/who")).toBe(0);
});

test("the word nearest to a place, or none", () => {
  const words = ["/earned/conditions/0/n", "/on", "/given"];
  expect(nearest(words, "/on/reduced")).toBe("/on");
  expect(nearest(words, "/earned/repeat")).toBe("/earned/conditions/0/n");
  expect(nearest(words, "/alongside")).toBeNull();
});
