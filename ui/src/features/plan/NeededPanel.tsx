import { api } from "../../api/client";
import type { Choice, Design } from "../../api/types";
import { useDesign } from "../../design/store";
import { useAnswer } from "../../design/use-answer";
import { WithFigures } from "../../design/WithFigures";
import { Answered } from "../../editor/Answered";
import { FigureButton } from "../../editor/FigureButton";
import { NumberField } from "../../editor/NumberField";
import { quantity } from "../../lib/format";
import { Button } from "../../ui/Button";
import { Group, Row } from "../../ui/Row";
import { Scroll } from "../../ui/Scroll";
import { GoalWords } from "./GoalWords";
import { type OnUse, Whiteboard } from "./Whiteboard";

/** What the loads and the goal ask for: Wh, batteries, inverter, system volts. */
export default function NeededPanel() {
  const answer = useAnswer("needed", api.needed);
  const { data, stamp } = answer;
  const apply = useDesign((state) => state.apply);
  const onUse: OnUse = (what, edits) => stamp && apply(what, edits, stamp);
  return (
    <div>
      <div className="grid grid-cols-1 gap-x-10 lg:grid-cols-[20rem_minmax(0,1fr)]">
        <GoalFields />
        <Answered answer={answer} loading="Doing the sums" failed="The sums cannot be done">
          {({ needed, figures }) =>
            needed && stamp ? (
              <WithFigures figures={figures} stamp={stamp}>
                <Whiteboard needed={needed} onUse={onUse} />
              </WithFigures>
            ) : (
              <NoBank />
            )
          }
        </Answered>
      </div>
      {data?.needed && stamp ? (
        <div data-answer={answer.standing.status}>
          <WithFigures figures={data.figures} stamp={stamp}>
            <OtherVolts choices={data.needed.choices} onUse={onUse} />
          </WithFigures>
        </div>
      ) : null}
    </div>
  );
}

function NoBank() {
  return (
    <Group title="Needed for the goal">
      <p className="max-w-100 text-sm">
        The first store is not a battery bank: there is no bank to size. What a larger station, or a
        battery beside it, would bring stands under Routes.
      </p>
    </Group>
  );
}

interface OtherVoltsProps {
  choices: readonly Choice[];
  onUse: OnUse;
}

/** The same sums at each system voltage. */
function OtherVolts({ choices, onUse }: OtherVoltsProps) {
  return (
    <>
      <h3 className="mt-3 mb-1 text-base">At other system volts</h3>
      <Scroll label="At other system volts">
        <table className="w-full min-w-170 text-sm">
          <thead>
            <tr className="border-line border-b text-right text-soft">
              {[
                "System",
                "Bank",
                "By energy",
                "By current",
                "For long life",
                "Quick",
                "Design",
                "",
              ].map((head) => (
                <th
                  key={head}
                  scope="col"
                  className={`px-2 py-1.5 font-medium ${head === "System" ? "text-left" : ""}`}
                >
                  {head || <span className="sr-only">Use it</span>}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {choices.map((choice) => (
              <ChoiceRow
                key={choice.series}
                choice={choice}
                onUse={(edits) => onUse(`use ${choice.system_v} V`, edits)}
              />
            ))}
          </tbody>
        </table>
      </Scroll>
      <p className="mt-2 max-w-160 text-soft text-sm">
        Batteries in parallel; the marked count decides. For lithium, long life is advice. 12 V is
        usual to about 2 kW and 24 V to about 4 kW, because of the amps. Other system volts carry
        everything along: inverter and converters of the new class, loads of the old volts behind a
        converter, cables and fuses to be chosen anew.
      </p>
    </>
  );
}

/** How long without recharging, and the margins. */
function GoalFields() {
  const design = useDesign((state) => state.document);
  const change = useDesign((state) => state.change);
  if (!design) return null;
  const setGoal = (field: string, part: Partial<Design["goal"]>) =>
    change(`goal: ${field}`, (d) => ({ ...d, goal: { ...d.goal, ...part } }), `goal.${field}`);
  const { goal } = design;
  return (
    <Group title="Goal">
      <GoalWords />
      <Row name="Without recharging" help="hours, or days such as 2 d">
        <NumberField
          label="Goal without recharging"
          as="hours"
          width="w-24"
          value={goal.hours}
          path="/goal/hours"
          onChange={(value) => setGoal("hours", { hours: value })}
        />
      </Row>
      <Row name="Margin for ageing" help="capacity the bank will have lost">
        <NumberField
          label="Margin for ageing"
          as="share"
          unit="%"
          width="w-16"
          value={goal.ageing_margin}
          path="/goal/ageing_margin"
          onChange={(ageing_margin) => setGoal("ageing", { ageing_margin })}
        />
      </Row>
      <Row name="Margin for guesses" help="use beyond your list">
        <NumberField
          label="Margin for guesses"
          as="share"
          unit="%"
          width="w-16"
          value={goal.guess_margin}
          path="/goal/guess_margin"
          onChange={(guess_margin) => setGoal("guesses", { guess_margin })}
        />
      </Row>
    </Group>
  );
}

interface ChoiceRowProps {
  choice: Choice;
  onUse: (edits: Choice["edits"]) => void;
}

function ChoiceRow({ choice, onUse }: ChoiceRowProps) {
  const key = `needed.${choice.series}s`;
  const count = (name: "energy" | "current" | "long_life") => (
    <td className={`px-2 text-right ${choice.decides === name ? "font-bold text-river" : ""}`}>
      <FigureButton of={`${key}.by_${name}`} />
      {choice.decides === name ? <span className="ml-1">◂ decides</span> : null}
    </td>
  );
  return (
    <tr className="border-line border-b" data-choice={`${choice.series}S${choice.parallel}P`}>
      <th scope="row" className="px-2 py-1.5 text-left font-normal">
        {quantity(choice.system_v, "V")}
        {choice.present ? <span className="tag ml-2">now</span> : null}
        {choice.recommended ? <span className="tag ml-2">usual choice</span> : null}
      </th>
      <td className="px-2 text-right font-semibold">
        {choice.series}S {choice.parallel}P
      </td>
      {count("energy")}
      {count("current")}
      {count("long_life")}
      <td className="px-2 text-right">
        <FigureButton of={`${key}.quick_a`} />
      </td>
      <td className="px-2 text-right">
        <FigureButton of={`${key}.design_a`} />
      </td>
      <td className="px-2 text-right">
        <Button
          look="quiet"
          onClick={() => onUse(choice.edits)}
          disabled={!choice.edits.length}
          aria-label={`Use ${choice.series}S ${choice.parallel}P at ${choice.system_v} V`}
        >
          Use
        </Button>
        {choice.present ? null : (
          <Button
            look="quiet"
            onClick={() => onUse(choice.alike_edits)}
            disabled={!choice.alike_edits.length}
            aria-label={`Same energy, ${choice.series}S ${choice.alike}P at ${choice.system_v} V`}
          >
            Same energy, {choice.series}S {choice.alike}P
          </Button>
        )}
      </td>
    </tr>
  );
}
