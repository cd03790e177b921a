import { Link, NavLink } from "react-router";
import { useDesign } from "../design/store";
import { useWorked } from "../design/use-evaluation";
import { TextField } from "../editor/TextField";
import { isWiring } from "../features/cables/wiring";
import { isOfRefill } from "../features/refill/refill";
import { useShortcuts } from "../lib/keys";
import { Button } from "../ui/Button";
import { JarMark } from "../ui/JarMark";
import { DesignMenu } from "./DesignMenu";
import { KeysButton } from "./KeysButton";
import { SaveStatus } from "./SaveStatus";
import { SettingsMenu } from "./SettingsMenu";
import { StandingBar } from "./StandingBar";
import { VIEWS, type View } from "./views";

/** Name of the design, its views with their open findings, undo, settings, saving. */
export function Header() {
  const { evaluation } = useWorked();
  const { id, document: design, past, future, undo, redo, change } = useDesign();
  const open = evaluation.findings.filter((f) => f.severity === "stop" || f.severity === "fix");
  const wiring = open.filter((f) => isWiring(f.code)).length;
  const refill = open.filter((f) => isOfRefill(f.code)).length;
  const counts: Partial<Record<View, number>> = {
    plan: open.length - wiring - refill,
    cables: wiring,
    refill,
  };

  useShortcuts({ undo, redo });

  if (!design) return null;
  return (
    <header className="sticky top-0 z-30 flex min-h-13 flex-wrap items-center gap-x-2 border-line border-b bg-paper px-4">
      <Link
        to="/"
        className="flex items-center gap-2 font-bold font-head text-lg"
        title="All designs"
      >
        <JarMark />
        <span className="max-md:sr-only">Gravel Jar</span>
      </Link>
      <div className="ml-1 w-46 max-xl:w-40">
        <TextField
          label="Name of the design"
          value={design.name}
          path="/name"
          className="border-transparent bg-transparent font-semibold hover:border-line"
          onChange={(name) => change("rename", (d) => ({ ...d, name }), "name")}
        />
      </div>
      <DesignMenu />
      <nav
        aria-label="Views"
        className="ml-1 flex max-w-full self-stretch overflow-x-auto max-sm:ml-0"
      >
        {VIEWS.map(([view, name]) => (
          <NavLink
            key={view}
            to={`/d/${id}/${view}`}
            className="flex h-full min-h-10 items-center gap-1.5 border-transparent whitespace-nowrap border-b-3 px-2 max-sm:gap-1 max-sm:px-1.5 aria-[current=page]:border-river aria-[current=page]:font-semibold"
          >
            {name}
            {counts[view] ? (
              <span
                className="rounded bg-stop px-1.5 text-paper text-xs"
                data-part="open-findings"
                data-of={view}
              >
                {counts[view]}
                <span className="sr-only"> open findings</span>
              </span>
            ) : null}
          </NavLink>
        ))}
        <Link to="/shelf" className="flex items-center px-2 text-soft hover:text-ink max-sm:px-1.5">
          Shelf
        </Link>
      </nav>
      <span className="flex-1" />
      <Button
        look="quiet"
        onClick={undo}
        disabled={!past.length}
        title={hint("Undo", past.at(-1)?.what)}
      >
        ↶ <span className="max-[1440px]:sr-only">Undo</span>
      </Button>
      <Button
        look="quiet"
        onClick={redo}
        disabled={!future.length}
        title={hint("Redo", future.at(-1)?.what)}
      >
        ↷ <span className="max-[1440px]:sr-only">Redo</span>
      </Button>
      <SettingsMenu />
      <SaveStatus />
      <KeysButton />
      <StandingBar />
    </header>
  );
}

const hint = (verb: string, what: string | undefined) => (what ? `${verb}: ${what}` : verb);
