import type { ChargeInput } from "../../api/types";
import { useReference } from "../../api/use-reference";
import { CHOSEN_BY, PLUGS, POLARITIES } from "../../design/labels";
import { NumberField } from "../../editor/NumberField";
import { TextField } from "../../editor/TextField";
import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Tick } from "../../ui/Tick";
import type { FieldsProps, StationFigures } from "./fields";

type Mode = ChargeInput["modes"][number];
type Props = FieldsProps<StationFigures> & { used: ReadonlySet<string> };

/** The charge inputs of a station: window, modes, watts, plug and polarity. */
export function InputFields({ value, label, at, set, used }: Props) {
  const { inputs } = value;
  const usual = useReference()?.usual_inputs ?? {};
  const put = (index: number, change: Partial<ChargeInput>) =>
    set("input", { inputs: inputs.with(index, { ...inputs[index], ...change } as ChargeInput) });
  const add = (blank: ChargeInput) => {
    let n = inputs.length + 1;
    while (inputs.some((one) => one.id === `input-${n}`)) n += 1;
    set("add an input", { inputs: [...inputs, { ...blank, id: `input-${n}` }] });
  };
  return (
    <>
      {inputs.map((input, index) => (
        <div key={input.id} className="border-line border-b py-1.5 text-sm" data-input={input.id}>
          <InputRows
            input={input}
            label={`${label}: ${input.name}`}
            path={`${at}/inputs/${index}`}
            put={(change) => put(index, change)}
            used={used.has(input.id)}
            onRemove={() =>
              set("remove an input", { inputs: inputs.filter((one) => one !== input) })
            }
          />
        </div>
      ))}
      <p className="mt-1 flex flex-wrap gap-x-1">
        {Object.entries(usual).map(([word, input]) => (
          <Button key={word} look="quiet" onClick={() => add(input)}>
            + {word}
          </Button>
        ))}
      </p>
    </>
  );
}

interface InputRowsProps {
  input: ChargeInput;
  label: string;
  path: string;
  put: (change: Partial<ChargeInput>) => void;
  used: boolean;
  onRemove: () => void;
}

function InputRows({ input, label, path, put, used, onRemove }: InputRowsProps) {
  const { accepts } = input;
  return (
    <div className="flex flex-wrap items-center gap-2">
      <TextField
        label={`${label}: name`}
        className="w-32"
        value={input.name}
        path={`${path}/name`}
        onChange={(name) => put({ name })}
      />
      <Choose
        label={`${label}: takes`}
        value={input.supply}
        options={[
          ["dc", "DC"],
          ["ac", "mains"],
        ]}
        onChange={(supply) => put({ supply })}
      />
      <NumberField
        label={`${label}: least volts`}
        unit="to"
        width="w-14"
        value={accepts.least_v}
        path={`${path}/accepts/least_v`}
        onChange={(least_v) => put({ accepts: { ...accepts, least_v } })}
      />
      <NumberField
        label={`${label}: most volts`}
        unit="V"
        width="w-14"
        value={accepts.most_v}
        path={`${path}/accepts/most_v`}
        onChange={(most_v) => put({ accepts: { ...accepts, most_v } })}
      />
      <NumberField
        label={`${label}: most watts`}
        unit="W"
        width="w-16"
        value={input.most_w}
        path={`${path}/most_w`}
        onChange={(most_w) => put({ most_w })}
      />
      <Choose
        label={`${label}: plug`}
        value={input.plug}
        options={PLUGS}
        onChange={(plug) => put({ plug })}
      />
      <Choose
        label={`${label}: polarity`}
        value={input.polarity}
        options={POLARITIES}
        onChange={(polarity) => put({ polarity })}
      />
      {input.supply === "dc" ? (
        <span className="flex items-center gap-1">
          <Tick
            label={`${label}: steps down only`}
            checked={input.steps_down_only}
            onChange={(steps_down_only) => put({ steps_down_only })}
          />
          steps down only
        </span>
      ) : null}
      <Button
        look="quiet"
        disabled={used}
        title={used ? "A cable is connected to it" : `Remove ${input.name}`}
        onClick={onRemove}
      >
        ×<span className="sr-only"> Remove {input.name}</span>
      </Button>
      {input.supply === "dc" ? (
        <Modes modes={input.modes} label={label} path={path} onChange={(modes) => put({ modes })} />
      ) : null}
    </div>
  );
}

interface ModesProps {
  modes: readonly Mode[];
  label: string;
  path: string;
  onChange: (modes: Mode[]) => void;
}

/** Modes of an input: how many amps, and what makes it choose. */
function Modes({ modes, label, path, onChange }: ModesProps) {
  const put = (index: number, change: Partial<Mode>) =>
    onChange(modes.map((mode, n) => (n === index ? { ...mode, ...change } : mode)));
  const blank = useReference()?.blank_mode;
  const add = () => {
    if (!blank) return;
    let n = modes.length + 1;
    while (modes.some((mode) => mode.name === `Mode ${n}`)) n += 1;
    onChange([...modes, { ...blank, name: `Mode ${n}` }]);
  };
  return (
    <span className="flex w-full flex-wrap items-center gap-x-4 gap-y-1 pl-4">
      {modes.map((mode, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a mode is known by its place
        <span key={index} className="flex items-center gap-1.5">
          <TextField
            label={`${label}: mode ${index + 1}`}
            className="w-24"
            value={mode.name}
            path={`${path}/modes/${index}/name`}
            onChange={(name) => put(index, { name })}
          />
          <NumberField
            label={`${label}: ${mode.name} amps`}
            unit="A, by"
            width="w-12"
            value={mode.amps}
            path={`${path}/modes/${index}/amps`}
            onChange={(amps) => put(index, { amps })}
          />
          <Choose
            label={`${label}: ${mode.name} chosen by`}
            value={mode.chosen_by}
            options={CHOSEN_BY}
            onChange={(chosen_by) => put(index, { chosen_by })}
          />
          {modes.length > 1 ? (
            <Button look="quiet" onClick={() => onChange(modes.filter((_, n) => n !== index))}>
              ×<span className="sr-only"> Remove {mode.name}</span>
            </Button>
          ) : null}
        </span>
      ))}
      {modes.length < 4 ? (
        <Button look="quiet" onClick={add}>
          + Mode
        </Button>
      ) : null}
    </span>
  );
}
