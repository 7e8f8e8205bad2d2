/** Tax classes, their rate in each zone, and how delivery is taxed. */
import { useNames } from "../../api/queries";
import type { TaxClass } from "../../api/types";
import { count } from "../../pieces/figures";
import { Heading, Headings } from "../../pieces/headings";
import { changedAt } from "../../pieces/lists";
import { SavedNumber } from "../../pieces/saved-number";
import { NewName } from "./new-name";
import { PERCENT, useChanges, useShop, Wrong } from "./saving";

const HIGHEST = 5_000;

export function TaxBoard() {
  const { delivery, frame } = useShop();
  const change = useChanges();
  const { data } = useNames();
  const { tax_classes: classes, delivery_tax_class, prices_with_tax, tax_said } = delivery.settings;
  const put = (tax_classes: TaxClass[]) => void change.settings({ tax_classes, tax_said: true });
  const rate = (at: number, zone: string, rate_bp: number | null) => {
    const others = classes[at]!.zones.filter((one) => one.zone !== zone);
    put(changedAt(classes, at, { zones: rate_bp === null ? others : [...others, { zone, rate_bp }] }));
  };
  const unknown = frame.unknown_tax_classes.filter(({ name }) => classes.every((one) => one.name !== name));
  const used = (name: string, first: boolean) => data?.filter((good) => good.tax_class === name || (first && !good.tax_class)).length ?? 0;
  return (
    <section aria-label="Tax" className="max-w-5xl">
      {!tax_said && (
        <p className="mb-3">
          Nobody has said yet what tax is in your prices: this is what a new shop begins with, or what your goods told.{" "}
          <button type="button" className="quiet" onClick={() => void change.settings({ tax_said: true })}>
            It is so
          </button>
        </p>
      )}
      <p className="flex flex-wrap items-center gap-x-6 gap-y-1">
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={prices_with_tax} onChange={(event) => void change.settings({ prices_with_tax: event.target.checked, tax_said: true })} />
          Prices and charges are with tax
        </label>
        <label>
          Delivery is taxed{" "}
          <select value={delivery_tax_class ?? ""} onChange={(event) => void change.settings({ delivery_tax_class: event.target.value || null })}>
            <option value="">as the goods of the cart, in proportion</option>
            {classes.map((one) => (
              <option key={one.name} value={one.name}>
                as {one.name}
              </option>
            ))}
          </select>
        </label>
      </p>
      <table className="figures mt-3">
        <caption className="sr-only">Rates by tax class and zone</caption>
        <Headings>
          <Heading>Tax class</Heading>
          <Heading n>Goods</Heading>
          <Heading n>Rate</Heading>
          {delivery.zones.map((zone) => <Heading key={zone.name} n>in {zone.name}</Heading>)}
          <Heading unseen>Take away</Heading>
        </Headings>
        <tbody>
          {classes.map((one, at) => (
            <tr key={one.name}>
              <th scope="row" className="text-ink!">
                {one.name}
                {at === 0 && <span className="font-normal text-soft"> · goods that name none</span>}
              </th>
              <td className="n">{count(used(one.name, at === 0))}</td>
              <td className="n">
                <SavedNumber {...PERCENT} most={HIGHEST} mayBeEmpty={false} label={`Rate of ${one.name}`} value={one.rate_bp} save={(rate_bp) => rate_bp !== null && put(changedAt(classes, at, { rate_bp }))} />
              </td>
              {delivery.zones.map((zone) => (
                <td key={zone.name} className="n">
                  <SavedNumber {...PERCENT} most={HIGHEST} label={`Rate of ${one.name} in ${zone.name}`} value={one.zones.find((held) => held.zone === zone.name)?.rate_bp ?? null} save={(rate_bp) => rate(at, zone.name, rate_bp)} />
                </td>
              ))}
              <td className="ps-4!">
                {classes.length > 1 && used(one.name, false) === 0 && (
                  <button type="button" className="quiet text-small" onClick={() => put(classes.toSpliced(at, 1))}>
                    Take away<span className="sr-only"> {one.name}</span>
                  </button>
                )}
              </td>
            </tr>
          ))}
          {unknown.map(({ name, goods }) => (
            <tr key={name}>
              <th scope="row" className="text-ink!">
                {name}
                <span className="font-normal text-soft"> · named by goods, taxed as {classes[0]!.name} until its rate is said</span>
              </th>
              <td className="n">{count(goods)}</td>
              <td className="n">
                <SavedNumber {...PERCENT} most={HIGHEST} label={`Rate of ${name}`} value={null} save={(rate_bp) => rate_bp !== null && put([...classes, { name, rate_bp, zones: [] }])} />
              </td>
              <td colSpan={delivery.zones.length + 1} />
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-2 text-small text-soft">A box left empty takes the class’s own rate. In a zone free of tax write 0: shoppers there pay the same price, and all of it is yours.</p>
      <p className="mt-3">
        <NewName title="A further tax class" button="Add a tax class" taken={classes.map((one) => one.name)} make={(name) => put([...classes, { name, rate_bp: 0, zones: [] }])} />
      </p>
      <Wrong />
    </section>
  );
}
