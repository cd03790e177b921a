import type { Sheet } from "../../api/types";
import { SheetSection } from "./Parts";

/** One page for the cupboard door and for the phone. */
export function Card({ sheet, revision }: { sheet: Sheet; revision: number }) {
  const { card } = sheet;
  return (
    <SheetSection part="card" title="Card for the door" page>
      <p className="mt-1">
        All together as planned: <strong data-figure-of="together">{card.together}</strong>.{" "}
        {card.then} {card.first}
      </p>
      <table className="mt-2 w-full text-sm">
        <thead>
          <tr className="text-left text-soft">
            <th>Runs alone, from full</th>
            <th className="text-right">Watts</th>
            <th className="text-right">Lasts</th>
          </tr>
        </thead>
        <tbody>
          {card.loads.map((one) => (
            <tr key={one.name} className="border-line border-t">
              <td>{one.name}</td>
              <td className="text-right">{one.watts}</td>
              <td className="text-right">{one.alone}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <dl className="mt-2 text-sm">
        <Line name="Never together" says={card.not_together} />
        <Line name="Highest start" says={card.highest_start ? [card.highest_start] : []} />
        {card.banks.map((bank) => (
          <Line
            key={bank.name}
            name={`${bank.name}, after ${bank.rests}`}
            says={[...bank.volts.map((row) => `${row.volts} is ${row.charge}`), bank.note]}
          />
        ))}
        <Line name="Off" says={card.switches} />
        <Line name="Fuses" says={card.fuses} />
      </dl>
      <dl className="mt-2 border-2 border-edge p-3 text-sm">
        {card.emergencies.map((one) => (
          <div key={one.what} className="border-line border-b py-1 last:border-b-0">
            <dt className="font-semibold">{one.what}</dt>
            <dd>{one.do}</dd>
          </div>
        ))}
      </dl>
      <p className="mt-2 text-sm">Whom to ask: ______________________________</p>
      <p className="text-soft text-xs">
        {sheet.name}, revision {revision}, {new Date().toLocaleDateString()}
      </p>
    </SheetSection>
  );
}

function Line({ name, says }: { name: string; says: readonly string[] }) {
  if (!says.length) return null;
  return (
    <div className="mt-1">
      <dt className="inline font-semibold">{name}: </dt>
      <dd className="inline">{says.join("; ").replace(/\.?$/, ".")}</dd>
    </div>
  );
}
