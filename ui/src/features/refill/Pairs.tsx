import { useState } from "react";
import { api } from "../../api/client";
import type { Pair } from "../../api/types";
import type { Stamp } from "../../design/stamp";
import { useDesign } from "../../design/store";
import { useAnswer } from "../../design/use-answer";
import { Answered } from "../../editor/Answered";
import { quantity } from "../../lib/format";
import { useNotice } from "../../lib/notice";
import { money } from "../../lib/own-units";
import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";

/** How many batteries with how few panels balance the week, none beaten in both. */
export function Pairs() {
  const [poor, setPoor] = useState(false);
  const answer = useAnswer("pairs", (now, signal) => api.pairs(now, poor, signal), {
    key: [poor],
  });
  return (
    <section aria-label="Batteries and panels together" className="mt-4" data-part="pairs">
      <h2 className="flex flex-wrap items-center gap-2 text-lg">
        Batteries and panels together, for
        <Choose
          label="Sun to balance for"
          value={poor ? "poor" : "week"}
          options={[
            ["week", "the week as set"],
            ["poor", "a poor sun every day"],
          ]}
          onChange={(next) => setPoor(next === "poor")}
        />
      </h2>
      <Answered
        answer={answer}
        loading="Running weeks with more batteries and panels"
        failed="This cannot be worked out"
      >
        {(pairs) => <Rows pairs={pairs} stamp={answer.stamp} />}
      </Answered>
    </section>
  );
}

function Rows({ pairs, stamp }: { pairs: readonly Pair[]; stamp: Stamp | null }) {
  const apply = useDesign((state) => state.apply);
  const undo = useDesign((state) => state.undo);
  const notify = useNotice((state) => state.notify);
  if (!pairs.length) {
    return (
      <p className="text-soft text-sm">
        Not with six batteries side by side and twenty strings of these panels: draw less, or add
        another source.
      </p>
    );
  }
  const use = (pair: Pair) => {
    if (stamp && apply(pair.label, pair.edits, stamp)) {
      notify(`${pair.label}: applied.`, { label: "Undo", act: undo });
    }
  };
  return (
    <table className="mt-1 text-sm">
      <thead>
        <tr className="text-left text-soft">
          {["Batteries", "Panels", "Price of both", ""].map((head) => (
            <th key={head} scope="col" className="pr-6 font-medium">
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {pairs.map((pair) => (
          <tr key={pair.batteries} className="border-line border-t" data-pair={pair.batteries}>
            <td className="py-1 pr-6">
              {pair.batteries} · {quantity(pair.bank_wh, "Wh")}
            </td>
            <td className="pr-6">
              {pair.panels} · {quantity(pair.sun_w, "W")}
            </td>
            <td className="pr-6 text-right">
              {pair.price == null ? "not on the shelf" : money(pair.price, 4)}
            </td>
            <td>
              {pair.now ? (
                <span className="text-moss">✓ what is here</span>
              ) : pair.edits.length ? (
                <Button onClick={() => use(pair)} aria-label={`Use: ${pair.label}`}>
                  Use
                </Button>
              ) : (
                <span className="text-soft">not here: it would bring a danger, see its wiring</span>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
