/** The tariff that is called as a zone is, alone or with its option (*Parcel, Zone 1*), as those of a rate card are. */
export function meantTariff(tariffs: string[], zone: string, option: string): string | undefined {
  const [here, by] = [plain(zone), plain(option)];
  const called = tariffs.map((name) => ({ name, parts: name.split(", ").map(plain) })).filter(({ parts }) => parts.includes(here));
  const exactly = called.filter(({ parts }) => parts.includes(by) && parts.length === 2);
  const alone = called.filter(({ parts }) => parts.length === 1);
  const found = exactly.length > 0 ? exactly : alone;
  return found.length === 1 ? found[0]!.name : undefined;
}

const plain = (name: string) => name.trim().toLowerCase();
