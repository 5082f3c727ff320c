// One tray or pot: what goes in, what is lost, what goes on.

import { flushSync } from "react-dom";
import type { Line, SheetLine, SheetStage, Stage } from "../../api/client";
import { useNames } from "../../api/kitchen";
import { MassBar } from "../../parts/Bars";
import { Figure, useCurrency } from "../../parts/Figure";
import { mass, money } from "../../parts/format";
import { keyName } from "../../parts/keys";
import { Table } from "../../parts/kit/Table";
import { Remove } from "../../parts/Small";
import { TypedInput } from "../../parts/TypedInput";
import {
  addLine,
  changeStage,
  coverByAllowance,
  type LinePlace,
  moveLine,
  moveStage,
  removeStage,
} from "./draft";
import { handle, settled, useDropPlace } from "./dragging";
import { LineRow, spent } from "./LineRow";
import { MethodChoice } from "./MethodChoice";
import { SieveQuestion } from "./SieveQuestion";
import { StageDetails } from "./StageDetails";
import { GoesOn, StageFacts } from "./StageFacts";
import { usePot } from "./usePot";

const HEADS = [
  { text: "as typed", className: "text-left pl-3" },
  { text: "buy (AP)", num: true, className: "w-20" },
  { text: "in pot (EP)", num: true, className: "w-20" },
  { text: "cost", num: true, className: "w-28" },
  { text: "Change", unseen: true, className: "w-32 no-print" },
];

/** What was worked out of a line, unless another one stood in its place then. */
function ofLine(sheet: SheetLine | undefined, line: Line): SheetLine | undefined {
  return sheet && sheet.item === (line.item ?? null) && sheet.recipe === (line.recipe ?? null)
    ? sheet
    : undefined;
}

export function StageBand({ stage, place, focus }: { stage: Stage; place: number; focus: boolean }) {
  const { edit, preview, state } = usePot();
  const names = useNames();
  const sheet = preview?.sheet.stages.find((one) => one.id === stage.id);
  const lines = (preview?.sheet.lines ?? []).filter((line) => line.stage === stage.id);
  const topUp = lines.find((line) => line.id === "top_up");
  const own = lines.filter((line) => line.id !== "top_up");
  const problems = (preview?.sheet.problems ?? []).filter((one) => one.stage === stage.id && !one.line);
  const warnings = (preview?.sheet.warnings ?? []).filter((one) => one.stage === stage.id);
  const title = stage.name ?? stage.method ?? stage.id;
  const currency = useCurrency();
  const last = state.recipe.stages.length - 1;
  const move = (step: 1 | -1) => {
    if (place + step < 0 || place + step > last) return;
    // What had the focus keeps it: a stage that is moved is lifted out of the page for a moment.
    const held = document.activeElement;
    flushSync(() => edit(moveStage(place, place + step)));
    if (held instanceof HTMLElement) held.focus();
  };
  const stages = useDropPlace<number>("stage", (from, below) =>
    edit(moveStage(from, settled(from, place, below))),
  );
  const lineEnd = useDropPlace<LinePlace>("line", (from) => {
    const here = from.stage === place ? stage.lines.length - 1 : stage.lines.length;
    edit(moveLine(from, { stage: place, line: here }));
  });
  const over = stages.over ?? (lineEnd.over && "below");
  return (
    <section
      className={`sheet ${over ? `dropped-${over}` : ""}`}
      aria-label={`Stage ${place + 1}: ${title}`}
      data-stage={stage.id}
      onKeyDown={(event) => {
        const step = { "Alt+Shift+up": -1, "Alt+Shift+down": 1 }[keyName(event)];
        if (step !== 1 && step !== -1) return;
        event.preventDefault();
        move(step);
      }}
      onDragOver={(event) => {
        stages.place.onDragOver(event);
        lineEnd.place.onDragOver(event);
      }}
      onDragLeave={() => {
        stages.place.onDragLeave();
        lineEnd.place.onDragLeave();
      }}
      onDrop={(event) => {
        stages.place.onDrop(event);
        lineEnd.place.onDrop(event);
      }}
    >
      <div className="hand flex items-center gap-2 px-3 pt-2 max-md:flex-wrap">
        <span
          {...handle("stage", place, "section")}
          className="text-lg font-bold text-primary w-5 cursor-grab"
          title="Drag the stage to another place"
        >
          {place + 1}
        </span>
        <input
          className="cell-input font-semibold text-lg w-56 max-md:grow"
          aria-label={`Name of stage ${place + 1}`}
          placeholder={stage.method ?? "name"}
          value={stage.name ?? ""}
          onChange={(event) =>
            edit(
              changeStage(place, (one) => ({ ...one, name: event.target.value || null })),
              `stage-name-${place}`,
            )
          }
        />
        <MethodChoice stage={stage} place={place} />
        <span className="grow" />
        {sheet && (
          <Figure
            ask={{ figure: `stage/${stage.id}/cost`, recipe: state.recipe.id, draft: state.recipe }}
            text={money(sheet.cost, currency)}
            atLeast={sheet.at_least}
            label={`cost that ${title} passes on`}
            className="money"
            stop={false}
          />
        )}
        <span className="tools flex no-print">
          <button
            type="button"
            className="btn btn-ghost btn-xs text-base-content"
            disabled={place === 0}
            aria-label={`Move ${title} up`}
            title="Alt Shift ↑"
            onClick={() => move(-1)}
          >
            ↑
          </button>
          <button
            type="button"
            className="btn btn-ghost btn-xs text-base-content"
            disabled={place === last}
            aria-label={`Move ${title} down`}
            title="Alt Shift ↓"
            onClick={() => move(1)}
          >
            ↓
          </button>
          <Remove label={`Remove stage ${title}`} remove={() => edit(removeStage(place))} />
        </span>
      </div>
      <StageDetails stage={stage} place={place} />
      <SieveQuestion stage={stage} at={place} />
      <Table
        caption={`Lines of ${title}`}
        look="plain"
        className="w-full lines"
        heads={stage.lines.length > 0 ? HEADS : []}
      >
        {stage.lines.map((line, at) => (
          <LineRow
            // Lines have no lasting name of their own; their place is their name.
            // biome-ignore lint/suspicious/noArrayIndexKey: see above
            key={at}
            line={line}
            stage={stage}
            stagePlace={place}
            place={at}
            sheet={ofLine(own[at], line)}
            names={names.data ?? []}
          />
        ))}
        {topUp && (
          <tr className="quiet" data-line="top_up">
            <td className="pl-4 py-0.5">topped up with {topUp.name}</td>
            <td className="num">{mass(topUp.ap_g)}</td>
            <td className="num">{mass(topUp.ep_g)}</td>
            <td className="num money">
              <div className="spent" style={spent(topUp.cost, preview?.sheet.batch.food_cost)}>
                {money(topUp.cost, currency)}
              </div>
            </td>
            <td />
          </tr>
        )}
      </Table>
      <TypedInput
        label={title}
        focus={focus}
        into={{ draft: state.recipe, stage: stage.id }}
        add={(line) => edit(addLine(place, line))}
        season={(names) => edit(coverByAllowance(names))}
      />
      {problems.map((problem) => (
        <p key={problem.message} className="text-error px-3 text-sm">
          {problem.message}
        </p>
      ))}
      {warnings.map((warning) => (
        <p key={warning.message} className="px-3 text-sm font-semibold">
          ⚠ {warning.message}
        </p>
      ))}
      {sheet && <Flow sheet={sheet} stage={stage} />}
      {sheet && <StageFacts sheet={sheet} stage={stage} />}
      {sheet && <GoesOn sheet={sheet} />}
      {stage.note && <p className="px-3 pb-2 text-sm">{stage.note}</p>}
      <Cautions stage={stage.id} />
    </section>
  );
}

/** What can hurt here, short, at the step. It is always there to read. */
function Cautions({ stage }: { stage: string }) {
  const { preview, saved } = usePot();
  const all = (preview ?? saved).cautions.filter((one) => one.stage === stage);
  if (all.length === 0) return null;
  return (
    <ul className="border-l-4 border-warning mx-3 mb-2 pl-3 text-sm" aria-label="Cautions">
      {all.map((one) => (
        <li key={one.text} title={one.source}>
          {one.text}
        </li>
      ))}
      <li className="quiet text-xs">Your local food code and trained people decide.</li>
    </ul>
  );
}

/** Mass in and out, drawn to scale, and where the rest went. */
function Flow({ sheet, stage }: { sheet: SheetStage; stage: Stage }) {
  const { state } = usePot();
  const currency = useCurrency();
  const ask = (name: string) => ({
    figure: `stage/${stage.id}/${name}`,
    recipe: state.recipe.id,
    draft: state.recipe,
  });
  const sum = (...texts: string[]) => texts.reduce((whole, text) => whole + Number(text), 0);
  const gone: { text: string; name: string; words: string }[] = [];
  if (Number(sheet.cooked_g) > 0)
    gone.push({ text: mass(sheet.cooked_g), name: "cooked_g", words: "cooked off" });
  if (Number(sheet.cooked_g) < 0)
    gone.push({ text: mass(sheet.cooked_g.slice(1)), name: "cooked_g", words: "taken up in cooking" });
  if (Number(sheet.stayed_g) > 0)
    gone.push({ text: mass(sheet.stayed_g), name: "stayed_g", words: "juice stays in the pot" });
  if (Number(sheet.stayed_g) < 0)
    gone.push({ text: mass(sheet.stayed_g.slice(1)), name: "stayed_g", words: "drunk from the pot" });
  if (Number(sheet.changed_g) > 0) {
    const words = stage.change.rule === "yield" ? "lost" : "up in steam";
    gone.push({ text: mass(sheet.changed_g), name: "changed_g", words });
  }
  if (Number(sheet.changed_g) < 0)
    gone.push({ text: mass(sheet.changed_g.slice(1)), name: "changed_g", words: "added" });
  sheet.taken_out.forEach((taken, at) => {
    const out = stage.take_out[at];
    const worth = Number(taken.value) === 0 ? "" : `, ${money(taken.value, currency)}`;
    const words = `${taken.name}${worth}${out?.use ? ` for ${out.use}` : ""}`;
    gone.push({ text: mass(taken.mass_g), name: `taken_${at + 1}_mass_g`, words });
  });
  if (Number(sheet.residue_g) > 0)
    gone.push({ text: mass(sheet.residue_g), name: "residue_g", words: "left on the vessel" });
  return (
    <div className="grid grid-cols-[auto_minmax(6rem,14rem)_auto_1fr] max-md:grid-cols-[auto_minmax(6rem,1fr)_auto] items-center gap-3 px-3 py-2 text-sm border-t border-base-300 mt-1">
      <span>
        in <Figure ask={ask("put_in_g")} text={mass(sheet.put_in_g)} label="mass put in" stop={false} />
      </span>
      <MassBar
        out={Number(sheet.mass_out_g)}
        juice={Number(sheet.stayed_g)}
        up={sum(sheet.cooked_g, sheet.changed_g)}
        aside={sum(sheet.residue_g, ...sheet.taken_out.map((taken) => taken.mass_g))}
      />
      <span className="font-semibold">
        out <Figure ask={ask("mass_out_g")} text={mass(sheet.mass_out_g)} label="mass out" stop={false} />
      </span>
      <span className="quiet">
        {gone.map((one, at) => (
          <span key={one.name}>
            {at > 0 && " · "}
            <Figure ask={ask(one.name)} text={one.text} label={one.words} stop={false} /> {one.words}
          </span>
        ))}
      </span>
    </div>
  );
}
