/** How much shoppers sent back, beside what Goods says of it. */
import { ask } from "../../api/client";
import { renewAll } from "../../api/queries";
import type { Carts } from "../../api/types";
import { soMany, share } from "../../pieces/figures";
import { useNotice } from "../../pieces/notice";

export function SentBack({ sent }: { sent: NonNullable<Carts["sent_back"]> }) {
  const { say, fail } = useNotice();
  const take = async () => {
    try {
      await ask("POST", "/goods/return-rates");
      await renewAll();
      say("Goods goes by what orders tell was sent back.");
    } catch (error) {
      fail(error);
    }
  };
  return (
    <p className="text-small">
      Shoppers sent back {share(sent.share)} of the units they ordered; by Goods it would be {share(sent.rate)}.{" "}
      {sent.goods > 0 && (
        <button type="button" className="quiet" onClick={() => void take()}>
          Take over for the {soMany(sent.goods, "SKU")} ordered often enough
        </button>
      )}
    </p>
  );
}
