import { Link } from "react-router";
import { wired } from "../../design/cable-text";
import { useDesign } from "../../design/store";
import { useWorked } from "../../design/use-evaluation";

/** What carries the current to a thing, in a few words; leads to its run in Cables. */
export function WireLink({ subject }: { subject: string }) {
  const { evaluation } = useWorked();
  const id = useDesign((state) => state.id);
  const wire = evaluation.wires.find((one) => one.subject === subject);
  if (!wire) return null;
  const says = wired(wire).join(", fuse ");
  return (
    <Link
      to={`/d/${id}/cables#${subject}`}
      className="text-river text-sm underline underline-offset-2"
      data-wire-link={subject}
    >
      {says || "no common cable carries this"} →
    </Link>
  );
}
