import { expect, test } from "vitest";

import { meantTariff } from "./meant-tariff";

test.each([
  [["Home", "Far"], "home", "Parcel", "Home"],
  [["Parcel, Home", "Express, Home", "Parcel, Far"], "Home", "Express", "Express, Home"],
  [["Home", "Parcel, Home"], "Home", "Parcel", "Parcel, Home"],
  [["Parcel, Home"], "Home", "Letter", undefined],
  [["home", "Home"], "Home", "Parcel", undefined],
  [["Homewares"], "Home", "Parcel", undefined],
])("of %j, %s by %s is meant by %s", (tariffs, zone, option, meant) => {
  expect(meantTariff(tariffs, zone, option)).toBe(meant);
});
