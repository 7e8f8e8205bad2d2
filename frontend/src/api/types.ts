/** Short names for the generated shapes; nothing is described here a second time. */
import type { components } from "./schema";

type Schemas = components["schemas"];

export type Frame = Schemas["FrameDoc"];
export type Good = Schemas["GoodDoc"];
export type GoodBody = Schemas["GoodBody"];
export type Goods = Schemas["GoodsDoc"];
export type GoodSaved = Schemas["GoodSavedDoc"];
export type Names = Schemas["NamesDoc"];
/** A SKU as others than Goods need it. */
export type Named = { [Field in keyof Names]: Names[Field][number] };
export type Shown = Schemas["ShownQuery"];
export type NextSku = Schemas["NextDoc"];
export type GoodsChanged = Schemas["GoodsChangedDoc"];
export type Margin = Schemas["MarginDoc"];
export type Levels = Schemas["LevelsDoc"];
export type ChangeBody = Schemas["ChangeBody"];
export type Preview = Schemas["PreviewDoc"];
export type Delivery = Schemas["DeliveryDoc"];
export type Settings = Schemas["SettingsDoc"];
export type Zone = Schemas["ZoneDoc"];
export type DeliveryOption = Schemas["Option"];
export type Charge = DeliveryOption["charge"];
export type Carries = Schemas["Carries"];
export type Tariff = Schemas["Tariff"];
export type TariffOfShop = Schemas["TariffDoc"];
export type Surcharge = Schemas["Surcharge"];
export type TaxClass = Schemas["TaxClass"];
export type PaymentMethod = Schemas["PaymentMethod"];
export type AllTaken = Schemas["AllTakenDoc"];
export type Taken = Schemas["TakenDoc"];
export type Curves = Schemas["CurvesDoc"];
export type DeliveryCurve = NonNullable<Curves["by_weight"]>;
export type Services = Schemas["ServicesDoc"];
export type Carts = Schemas["CartsDoc"];
/** Offers that come from the server always have their id. */
export type OfferDoc = Schemas["OfferDoc"] & { id: string };
export type Plan = Omit<Schemas["PlanDoc"], "offers"> & { offers: OfferDoc[] };
export type SavedPlan = Omit<Schemas["SavedPlanDoc"], "plan"> & { plan: Plan };
export interface Plans {
  plans: SavedPlan[];
}
export type Terms = Schemas["Terms"];
export type Reward = Terms["gives"][number];
export type RewardKind = Reward["kind"];
export type Condition = Terms["earned"]["conditions"][number];
export type ConditionKind = Condition["kind"];
export type Measured = Exclude<Condition, { kind: "only" }>;
export type Bound = Measured["bound"];
export type Limits = Schemas["Limits"];
export type Scope = Schemas["Scope"];
export type Given = Terms["given"];
export type When = Terms["when"];
export type Who = Terms["who"];
export type Where = Terms["where"];
export type Alongside = Terms["alongside"];
export type Step = Terms["steps"][number];
export type UnitPriceOf = Extract<Reward, { kind: "buy_get" }>["price"];
export type SetPriceOf = Extract<Reward, { kind: "goods_set" }>["price"];
export type Reach = Schemas["ReachDoc"];
export type OfferReach = Schemas["OfferReachDoc"];
export type OffersFile = Schemas["OffersFile"];
export type Forecast = Schemas["ForecastDoc"];
export type OfferFigures = Schemas["OfferFiguresDoc"];
export type BreakEven = Schemas["BreakEvenDoc"];
export type LedgerLine = Schemas["LedgerLineDoc"];
export type BridgeStep = Schemas["StepDoc"];
export type Rod = Schemas["RodDoc"];
export type Part = Forecast["answer"][number];
export type Upload = Schemas["UploadDoc"];
export type Curve = Schemas["CurveDoc"];
export type Undone = Schemas["UndoneDoc"];
export type Problem = Schemas["ProblemDoc"];
export type FieldProblem = Schemas["FieldProblem"];
