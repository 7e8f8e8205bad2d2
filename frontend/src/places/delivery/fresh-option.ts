/** A delivery option as it begins. */
import type { DeliveryOption } from "../../api/types";
import { EVERYTHING } from "../../pieces/scope-word";

export const freshOption = (name: string, share_bp: number): DeliveryOption => ({
  name,
  charge: { kind: "flat", amount: 0 },
  free_from: null,
  share_bp,
  carries: { heaviest: null, longest: null, refuses: EVERYTHING },
  from_weight: null,
  tariffs: [],
  preferred: [],
});
