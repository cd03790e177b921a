import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useEffect, useRef, useState } from "react";
import { api, Refused } from "../../api/client";
import type { Have } from "../../api/types";
import { ProblemsContext } from "../../design/use-evaluation";
import { useSettings } from "../../lib/settings";
import { Button } from "../../ui/Button";
import { Modal } from "../../ui/Modal";
import { BeginFields } from "./BeginFields";
import { BEGINNINGS, type Beginning, BLANKS } from "./beginnings";
import { RegionRows } from "./RegionRows";

interface BeginDialogProps {
  kind: Beginning["kind"];
  onClose: () => void;
  onOpen: (id: string, kind: Beginning["kind"]) => Promise<void>;
}

/** The figures of a label, and where it is built: then the design begins. */
export function BeginDialog({ kind, onClose, onOpen }: BeginDialogProps) {
  const title = BEGINNINGS.find((one) => one.kind === kind)?.title ?? "";
  const [failed, setFailed] = useState<Error | null>(null);
  const problems = failed instanceof Refused ? (failed.problem.errors ?? []) : [];
  const [have, setHave] = useState<Have>(BLANKS[kind === "example" ? "nothing" : kind]);
  const region = useSettings((state) => state.region);
  const form = useRef<HTMLFormElement>(null);
  const [marked, setMarked] = useState(0);
  useEffect(() => {
    const fields = failed ? form.current?.querySelectorAll<HTMLElement>("[aria-invalid=true]") : [];
    fields?.[0]?.focus();
    setMarked(fields?.length ?? 0);
  }, [failed]);
  const go = async (made: Promise<{ id: string }>) => {
    try {
      await onOpen((await made).id, kind);
    } catch (error) {
      setFailed(error as Error);
    }
  };
  const start = (event: FormEvent) => {
    event.preventDefault();
    void go(api.begin(have, region));
  };
  return (
    <Modal title={title} name="begin" onClose={onClose}>
      {kind === "example" ? (
        <Examples onOpen={(key) => void go(api.openExample(key))} />
      ) : (
        <form ref={form} onSubmit={start} className="mt-3">
          <ProblemsContext value={problems}>
            <BeginFields have={have} onChange={setHave} />
          </ProblemsContext>
          <details className="mt-2 border-line border-t pt-2">
            <summary className="text-sm" data-part="region">
              Mains {region.ac_volts} V {region.ac_hz} Hz, built into{" "}
              {region.place === "box" ? "a box" : `a ${region.place}`},{" "}
              {region.sizes === "AWG" ? "AWG" : "mm²"}
            </summary>
            <RegionRows />
          </details>
          <p className="mt-3 flex items-center gap-3">
            <Button look="main" type="submit">
              Start
            </Button>
            <span className="text-soft text-sm">Everything can be changed later.</span>
          </p>
        </form>
      )}
      {failed ? (
        <p role="alert" className="mt-2 text-sm text-stop">
          Not made: {marked ? inWords(problems) : failed.message}
        </p>
      ) : null}
    </Modal>
  );
}

/** What is wrong with what is marked. */
function inWords(problems: readonly { message: string }[]): string {
  const [first, more] = problems;
  return first && !more ? `the marked figure ${first.message}.` : "the marked figures are refused.";
}

function Examples({ onOpen }: { onOpen: (key: string) => void }) {
  const { data, error } = useQuery({ queryKey: ["examples"], queryFn: api.examples });
  if (error) return <p className="mt-2 text-sm text-stop">{error.message}</p>;
  return (
    <ul className="mt-3 space-y-2">
      {(data ?? []).map((one) => (
        <li key={one.key}>
          <button
            type="button"
            className="w-full rounded border border-edge p-2 text-left hover:border-river"
            onClick={() => onOpen(one.key)}
            data-example={one.key}
          >
            <strong className="block">{one.name}</strong>
            <span className="text-soft text-sm">{one.notes}</span>
          </button>
        </li>
      ))}
    </ul>
  );
}
