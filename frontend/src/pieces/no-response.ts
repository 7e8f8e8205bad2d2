/** A response of which nothing has been said. */
import type { Response } from "../api/types";
import { EVERYTHING } from "./scope-word";

export const NO_RESPONSE: Response = {
  uptake_bp: null,
  uptake_first_bp: null,
  take_up_bp: null,
  top_up_bp: null,
  top_up_reach: 0,
  top_up_falls: true,
  top_up_skus: [],
  extra_bp: null,
  extra_first_bp: null,
  borrowed_bp: null,
  extra_cost: 0,
  partner_bp: 0,
  fixed_cost: 0,
  later: 0,
  sends: null,
  depth_bp: null,
  shift_bp: null,
  switched_bp: null,
  switched_of: EVERYTHING,
  ranges: [],
  also_at: [],
  shown: "",
};
