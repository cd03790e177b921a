import { useNavigate } from "react-router";
import { api } from "../../api/client";
import type { Lever } from "../../api/types";
import { usePlan } from "../../design/selection";
import type { Stamp } from "../../design/stamp";
import { useDesign } from "../../design/store";
import { useAnswer } from "../../design/use-answer";
import { Answered } from "../../editor/Answered";
import { hours, quantity } from "../../lib/format";
import { useNotice } from "../../lib/notice";
import { money } from "../../lib/own-units";
import { Button } from "../../ui/Button";
import { Scroll } from "../../ui/Scroll";

/** Single changes by the hours they buy, each run anew: taken at once, or looked at first. */
export function LeversTable() {
  const answer = useAnswer("levers", api.levers);
  return (
    <Answered
      answer={answer}
      loading="Trying every change"
      failed="The changes cannot be worked out"
    >
      {(levers) => <Table levers={levers} stamp={answer.stamp} />}
    </Answered>
  );
}

/** `stamp` is what the changes were worked out for. */
function Table({ levers, stamp }: { levers: readonly Lever[]; stamp: Stamp | null }) {
  if (!levers.length) {
    return (
      <p className="my-4 max-w-150 rounded border border-edge border-dashed p-4 text-sm">
        No single change buys more hours: nothing stops in the time looked ahead, or there is
        nothing that has to run.
      </p>
    );
  }
  const most = Math.max(...levers.map((lever) => lever.gained_h), 1e-9);
  return (
    <Scroll label="Changes by the hours they buy">
      <table className="w-full min-w-180 text-sm" data-part="levers">
        <thead className="text-left text-soft text-xs">
          <tr>
            <th className="py-1 font-normal">Change</th>
            <th className="px-3 font-normal">Hours it buys</th>
            <th className="px-3 font-normal">It takes</th>
            <th className="px-3 text-right font-normal">Price</th>
            <th className="px-3 text-right font-normal">Mass</th>
            <th className="px-3 font-normal">What else it does</th>
            <th>
              <span className="sr-only">Use it</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {stamp
            ? levers.map((lever) => (
                <LeverRow
                  key={`${lever.kind} ${lever.label}`}
                  lever={lever}
                  most={most}
                  stamp={stamp}
                />
              ))
            : null}
        </tbody>
      </table>
    </Scroll>
  );
}

interface LeverRowProps {
  lever: Lever;
  most: number;
  stamp: Stamp;
}

function LeverRow({ lever, most, stamp }: LeverRowProps) {
  const apply = useDesign((state) => state.apply);
  const undo = useDesign((state) => state.undo);
  const id = useDesign((state) => state.id);
  const setPreview = usePlan((state) => state.setPreview);
  const notify = useNotice((state) => state.notify);
  const navigate = useNavigate();
  const take = () => {
    if (apply(lever.label, lever.edits, stamp)) {
      notify(`${lever.label}: applied.`, { label: "Undo", act: undo });
    }
  };
  const look = () => {
    setPreview({ label: lever.label, edits: lever.edits, stamp, says: `then ${lever.lasts}` });
    void navigate(`/d/${id}/plan`);
  };
  const width = Math.max((lever.gained_h / most) * 120, lever.gained_h > 0 ? 2 : 0);
  return (
    <tr className="border-line border-t align-middle" data-lever={`${lever.kind} ${lever.subject}`}>
      <td className="max-w-96 py-1.5">{lever.label}</td>
      <td className="px-3">
        <span className="flex items-center gap-2">
          <svg width={122} height={14} aria-hidden="true">
            <rect x={0} y={3} width={width} height={8} rx={4} fill="var(--river)" />
          </svg>
          <span className="whitespace-nowrap">
            {lever.gained_h > 0.02 ? `+ ${hours(lever.gained_h)}` : "none"}
            <span className="block text-soft text-xs">
              {lever.narrower === null
                ? `then ${lever.lasts}`
                : `band ${quantity(lever.narrower, "share", 2)} narrower`}
            </span>
          </span>
        </span>
      </td>
      <td className="px-3 text-soft">{lever.effort}</td>
      <td className="px-3 text-right">{lever.price === null ? "–" : money(lever.price)}</td>
      <td className="px-3 text-right">
        {lever.mass_kg === null ? "–" : quantity(lever.mass_kg, "kg")}
      </td>
      <td className="max-w-80 px-3 text-xs">
        {lever.clears.map((title) => (
          <span key={title} className="block text-moss">
            ✓ clears: {title}
          </span>
        ))}
        {lever.brings.map((title) => (
          <span key={title} className="block text-fix">
            ▲ adds: {title}
          </span>
        ))}
      </td>
      <td className="whitespace-nowrap text-right">
        <Button look="quiet" onClick={look} aria-label={`Preview: ${lever.label}`}>
          preview
        </Button>
        <Button onClick={take} aria-label={`Use: ${lever.label}`}>
          Use
        </Button>
      </td>
    </tr>
  );
}
