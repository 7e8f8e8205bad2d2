import { expect, test } from "vitest";

import { borders } from "./bead-field";

const cells = (field: (number | null)[][]) => field.flatMap((line, row) => line.map((impact, column) => ({ row, column, impact })));
const at = (count: number) => Array.from({ length: count }, (_, n) => n);

test("a border stands between cells on the two sides of a level, and nowhere else", () => {
  const field = [
    [-1, 2],
    [-3, -4],
  ];
  expect(borders(cells(field), at(2), at(2), 0)).toEqual([
    [1, 0, true],
    [1, 1, false],
  ]);
  expect(borders(cells(field), at(2), at(2), 10)).toEqual([]);
});

test("cells that make no sense have no border", () => {
  expect(borders(cells([[null, 2, -2]]), at(3), at(1), 0)).toEqual([[2, 0, true]]);
});
