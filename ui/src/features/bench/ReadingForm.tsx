import { useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api } from "../../api/client";
import type { Check } from "../../api/types";
import { useDesign } from "../../design/store";
import { useAnswer } from "../../design/use-answer";
import { NumberField } from "../../editor/NumberField";
import { useNotice } from "../../lib/notice";
import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Row } from "../../ui/Row";
import { KINDS, type Kind, readingOf, type Values } from "./fields";
import { JudgedLine } from "./JudgedLine";

interface ReadingFormProps {
  check: Check;
  onKept: () => void;
}

/** The figures of one reading, judged as they are typed; kept with a button or Enter. */
export function ReadingForm({ check, onKept }: ReadingFormProps) {
  const [values, setValues] = useState<Values>({});
  const id = useDesign((state) => state.id);
  const queries = useQueryClient();
  const notify = useNotice((state) => state.notify);
  const kind = check.kind as Kind;
  const spec = KINDS[kind];
  const reading = readingOf(kind, check.subject, values);
  const judged = useAnswer(
    "judge-reading",
    (design, signal) => api.judgeReadings(design, reading ? [reading] : [], signal),
    { key: [JSON.stringify(reading)], enabled: reading !== null },
  );
  const set = (key: string, value: number | string | undefined) =>
    setValues(({ [key]: _, ...rest }) => (value === undefined ? rest : { ...rest, [key]: value }));
  const keep = async (event: FormEvent) => {
    event.preventDefault();
    if (!reading) return;
    try {
      const day = new Date();
      const taken_on = [day.getFullYear(), day.getMonth() + 1, day.getDate()]
        .map((n) => String(n).padStart(2, "0"))
        .join("-");
      await api.addReading(id, { ...reading, taken_on });
      await queries.invalidateQueries({ queryKey: ["readings", id] });
      setValues({});
      onKept();
    } catch (error) {
      notify(`Not kept: ${(error as Error).message}`);
    }
  };
  const said = reading && judged.standing.status === "fresh" ? judged.data?.[0] : null;
  return (
    <form
      className="rounded-lg border border-edge bg-card p-3"
      onSubmit={(event) => void keep(event)}
      data-part="reading-form"
      data-kind={kind}
    >
      <h2 className="text-lg">{check.name}</h2>
      <p className="text-soft text-sm">
        {spec.how} {check.why} The plan expects {check.expected}.
      </p>
      <div className="mt-2">
        {spec.numbers.map(({ key, name, unit, as, may }) => (
          <Row key={key} name={name} {...(may ? { help: "may be left out" } : {})}>
            <NumberField
              label={`Reading: ${name}`}
              unit={unit}
              {...(as ? { as } : {})}
              signed
              applies={as === "hours" ? "left" : "typed"}
              width="w-28"
              path={`/readings/0/${key}`}
              value={typeof values[key] === "number" ? (values[key] as number) : null}
              onChange={(value) => set(key, value)}
              onClear={() => set(key, undefined)}
            />
          </Row>
        ))}
        {spec.choices?.map(({ key, name, options }) => (
          <Row key={key} name={name}>
            <Choose<string>
              label={`Reading: ${name}`}
              value={String(values[key] ?? options[0]?.[0] ?? "")}
              options={options}
              onChange={(value) => set(key, value)}
            />
          </Row>
        ))}
        <Row name="Air there" help="20 °C if unsaid">
          <NumberField
            label="Reading: air"
            unit="°C"
            signed
            placeholder="20"
            applies="typed"
            path="/readings/0/air_c"
            value={typeof values.air_c === "number" ? values.air_c : null}
            onChange={(value) => set("air_c", value)}
            onClear={() => set("air_c", undefined)}
          />
        </Row>
        <Row name="Meter">
          <input
            className="field w-56"
            aria-label="Reading: meter"
            placeholder="clamp, shunt, plug meter"
            maxLength={80}
            value={String(values.instrument ?? "")}
            onChange={(event) => set("instrument", event.target.value || undefined)}
          />
        </Row>
        <Row name="Noted">
          <input
            className="field w-56"
            aria-label="Reading: note"
            placeholder="with which load, how long"
            maxLength={1000}
            value={String(values.note ?? "")}
            onChange={(event) => set("note", event.target.value || undefined)}
          />
        </Row>
      </div>
      {judged.error && reading ? <p className="text-sm text-stop">{judged.error.message}</p> : null}
      {said ? <JudgedLine judged={said} /> : null}
      <p className="mt-2">
        <Button look="main" type="submit" disabled={!reading}>
          Keep the reading
        </Button>
      </p>
    </form>
  );
}
