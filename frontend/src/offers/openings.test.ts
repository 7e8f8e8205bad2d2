import { expect, test } from "vitest";

import type { Frame, Named } from "../api/types";
import { beginning, OPENINGS, openingsFor, understood } from "./openings";

const frame = { categories: ["Seeds", "House plants"], tags: ["heavy"], brands: [], zones: ["Home"], minor_digits: 2, round_amount: 100 } as unknown as Frame;
const goods = [{ sku: "P", product: "Stone trough" }] as Named[];
const found = (typed: string) => openingsFor(typed, understood(typed, frame, goods)).map((one) => one.words);

test("numbers, money, shares and goods are told apart from the other words", () => {
  const typed = understood("15% off 3 stone troughs from €40", frame, goods);
  expect(typed.figures).toEqual({ counts: [3], percent: 15, amount: 40 });
  expect(typed.goods.map((one) => one.products)).toEqual([["Stone trough"]]);
});

test("any of the words, in any order, finds an opening", () => {
  expect(found("buy two seeds")[0]).toMatch(/^Buy two/);
  expect(found("free delivery").join()).toMatch(/delivery/i);
  expect(found("zzz")).toEqual([]);
});

test("first figures fit what orders come to, and typed ones stay as they are", () => {
  const yen = { ...frame, minor_digits: 0, round_amount: 200 } as Frame;
  const from = (typed: string) => OPENINGS[2]!.make(beginning(yen, goods, understood(typed, yen, goods)));
  expect([from("").earned.conditions[0], from("").gives[0]]).toMatchObject([{ kind: "spend", n: 12_000 }, { kind: "amount_off", amount: 1_000 }]);
  expect(from("¥8500").earned.conditions[0]).toMatchObject({ n: 8_500 });
});
