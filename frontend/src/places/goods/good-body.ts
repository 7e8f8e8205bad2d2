/** A SKU as it is sent to be saved: what the merchant keeps, without what is worked out. */
import type { Good, GoodBody } from "../../api/types";

const FIELDS = [
  "product", "option", "list_price", "going_price", "reduced_price", "reduced_from", "reduced_to", "least_advertised", "quantity_prices", "group_prices",
  "counted_by_product", "purchase_cost", "freight_cost", "duty_cost", "packaging_cost", "other_cost", "weight", "length",
  "width", "height", "categories", "stock", "brand", "tags", "never_discounted", "gift_only", "tax_class", "return_bp",
  "commission_bp", "insured", "kit", "assembly_cost",
] as const satisfies (keyof GoodBody)[];

export const bodyOf = (good: GoodBody | Good): GoodBody => Object.fromEntries(FIELDS.map((field) => [field, good[field]])) as unknown as GoodBody;

export const NEW_GOOD: GoodBody = {
  product: "", option: "", list_price: null, going_price: null, reduced_price: null, reduced_from: null, reduced_to: null, least_advertised: null, quantity_prices: [],
  group_prices: [], counted_by_product: false, purchase_cost: null, freight_cost: null, duty_cost: null, packaging_cost: null,
  other_cost: null, weight: null, length: null, width: null, height: null, categories: [], stock: null, brand: "", tags: [],
  never_discounted: false, gift_only: false, tax_class: "", return_bp: 0, commission_bp: 0, insured: false, kit: [],
  assembly_cost: null,
};
