import { useEffect, useId, useState } from "react";
import { useWorked } from "../../design/use-evaluation";
import { hoursOf, readSpans, writeSpans } from "../../design/when";
import { NumberField } from "../../editor/NumberField";
import { Choose } from "../../ui/Choose";
import { Row } from "../../ui/Row";
import type { LoadFieldProps } from "./load-field-props";

/** Times of day, as people write them; and how it goes on and off within them. */
export function TimesRow({ load, path, set }: LoadFieldProps) {
  const written = writeSpans(load.when);
  const [text, setText] = useState(written);
  const fieldId = useId();
  const [problem, setProblem] = useState("");
  useEffect(() => setText(written), [written]);
  const take = () => {
    const read = readSpans(text, hoursOf(load.when));
    if (typeof read === "string") return setProblem(read);
    setProblem("");
    if (text.trim() !== written) set("times", { when: read });
  };
  return (
    <>
      <Row name="Times of day" help="20:30, or 19:00-22:30; empty: any time">
        <input
          id={fieldId}
          className="field w-44"
          aria-label={`${load.name}: times of day`}
          aria-invalid={problem !== ""}
          value={text}
          placeholder="any time"
          onChange={(event) => setText(event.target.value)}
          onBlur={take}
          onKeyDown={(event) => event.key === "Enter" && take()}
        />
        {problem ? (
          <span role="alert" className="text-sm text-stop">
            {problem}
          </span>
        ) : null}
      </Row>
      <Row name="Runs" help="once: on the first day of a week">
        <Choose
          label={`${load.name}: runs`}
          value={load.once ? "once" : "daily"}
          options={[
            ["daily", "each day"],
            ["once", "once"],
          ]}
          onChange={(runs) => set("runs", { once: runs === "once" })}
        />
      </Row>
      {load.duty < 1 ? (
        <Row name="On and off" help="in cycles of; empty: averaged">
          <NumberField
            label={`${load.name}: cycle`}
            unit="min"
            width="w-16"
            placeholder="averaged"
            value={load.cycle_min ?? null}
            path={path("cycle_min")}
            onChange={(cycle_min) => set("cycle", { cycle_min })}
            onClear={() => set("cycle", { cycle_min: null })}
          />
        </Row>
      ) : null}
    </>
  );
}

/** Volts it accepts: out, back, most. */
export function WindowRow({ load, path, set }: LoadFieldProps) {
  const { window } = load;
  const { evaluation } = useWorked();
  const usual = evaluation.loads.find((one) => one.id === load.id);
  const start = () =>
    usual &&
    set("window", {
      window: {
        cut_out_v: tidy(usual.usual_cut_out_v),
        restarts_v: null,
        most_v: tidy(usual.usual_most_v),
      },
    });
  return (
    <Row name="Accepts" help="cut-out, restart, maximum">
      <input
        type="checkbox"
        className="size-4 accent-river"
        aria-label={`${load.name} states the volts it accepts`}
        checked={Boolean(window)}
        onChange={(event) => (event.target.checked ? start() : set("window", { window: null }))}
      />
      {window ? (
        <>
          <NumberField
            label={`${load.name}: cut-out volts`}
            width="w-14"
            value={window.cut_out_v}
            path={path("window/cut_out_v")}
            onChange={(cut_out_v) => set("window", { window: { ...window, cut_out_v } })}
          />
          <NumberField
            label={`${load.name}: restart volts`}
            width="w-14"
            placeholder="rule"
            value={window.restarts_v ?? null}
            path={path("window/restarts_v")}
            onChange={(restarts_v) => set("window", { window: { ...window, restarts_v } })}
            onClear={() => set("window", { window: { ...window, restarts_v: null } })}
          />
          <NumberField
            label={`${load.name}: most volts`}
            unit="V"
            width="w-14"
            value={window.most_v}
            path={path("window/most_v")}
            onChange={(most_v) => set("window", { window: { ...window, most_v } })}
          />
        </>
      ) : null}
    </Row>
  );
}

const tidy = (volts: number) => Number(volts.toPrecision(4));
