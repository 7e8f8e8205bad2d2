import { expect, test } from "vitest";

import { between, crossing, evenInWords } from "./even-at";

const tell = (value: number) => `${value}`;

test("the crossing nearest to the value, and its direction", () => {
  const points = [[0, 5], [10, -1], [20, -3], [30, 2]] as const;
  expect(crossing(points, 5)).toEqual({ less: 10, even: 0 });
  expect(crossing(points, 22)).toEqual({ less: 20, even: 30 });
  expect(evenInWords(crossing(points, 22), tell)).toBe("Breaks even from 30 on");
  expect(evenInWords(crossing(points, 2), tell)).toBe("Breaks even up to 0");
});

test("always, never, and just even", () => {
  expect(crossing([[0, 0], [1, 3]], 0)).toBe("always");
  expect(crossing([[0, -1], [1, -3]], 0)).toBe("never");
});

test("values between the ends, in whole steps, until they are a step apart", () => {
  expect(between({ less: 100, even: 400 }, 100)).toEqual([200, 300]);
  expect(between({ less: 200, even: 100 }, 100)).toEqual([]);
  expect(between({ less: 0, even: 2600 }, 100)).toHaveLength(12);
});
