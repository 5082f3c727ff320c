// The pot sheet of one recipe.

import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { api, inWords, isAway, type Pushed, type RecipeReply, told } from "../../api/client";
import { useLookedAt } from "../../api/pushed";
import { useKeys } from "../../parts/keys";
import { useToast } from "../../parts/Toasts";
import { Conflict } from "./Conflict";
import { DraftsLeft } from "./DraftsLeft";
import { addStage } from "./draft";
import { OtherDrafts } from "./OtherDrafts";
import { PotHead } from "./PotHead";
import { SideStrip } from "./SideStrip";
import { StageBand } from "./StageBand";
import { PotProvider, useDraft, usePot, useSave } from "./usePot";

export function PotRoom() {
  const { recipe = "" } = useParams();
  const found = useQuery({
    queryKey: ["recipe", recipe],
    queryFn: () =>
      told<RecipeReply>(api.GET("/api/recipes/{recipe_id}", { params: { path: { recipe_id: recipe } } })),
  });
  if (found.isPending) return <p>Fetching the pot …</p>;
  // A pot in hand stays on the screen while the server is away.
  if (found.isLoadingError || (found.isError && !isAway(found.error))) {
    return (
      <div className="sheet p-6">
        <p role="alert">{inWords(found.error)}</p>
        {!isAway(found.error) && <DraftsLeft id={recipe} />}
        <Link className="link" to="/cook">
          All recipes
        </Link>
      </div>
    );
  }
  return <PotSheet key={recipe} saved={found.data} />;
}

function servingName(saved: RecipeReply, one: Pushed): string {
  return saved.recipe.servings.find((serving) => serving.id === one.serving)?.name ?? one.serving;
}

/** To the set price of the first serving, and from there to that of the next. */
function nextPrice(): void {
  const prices = [...document.querySelectorAll<HTMLInputElement>("input[data-set-price]")];
  const at = prices.indexOf(document.activeElement as HTMLInputElement);
  const next = prices[(at + 1) % prices.length];
  next?.focus();
  next?.select();
}

/** The pot as a file for others, as it is saved. */
function GiveOut({ saved }: { saved: RecipeReply }) {
  const forms = [
    ["json-ld", "JSON-LD"],
    ["text", "text"],
    ["markdown", "Markdown"],
  ] as const;
  return (
    <p className="text-sm no-print">
      <span className="quiet">Give it out as</span>{" "}
      {forms.map(([form, words], place) => (
        <span key={form}>
          {place > 0 && ", "}
          <a className="link" href={`/api/recipes/${saved.recipe.id}/as/${form}`} download>
            {words}
          </a>
        </span>
      ))}
      {saved.not_held.length > 0 && (
        <span className="quiet">. JSON-LD has no place for {saved.not_held.join("; ")}.</span>
      )}
    </p>
  );
}

/** What is noted on the whole pot; shown where there is something, or where somebody wants to. */
function PotNote() {
  const { state, edit } = usePot();
  const [asked, setAsked] = useState(false);
  const note = state.recipe.note ?? "";
  if (!note && !asked)
    return (
      <button type="button" className="link text-sm self-start no-print" onClick={() => setAsked(true)}>
        Note something on this pot
      </button>
    );
  return (
    <section className="sheet p-3 flex flex-col gap-1" aria-label="Notes">
      <h2 className="font-semibold">Notes</h2>
      <textarea
        aria-label="What is noted"
        className="cell-input w-full"
        ref={asked ? (field) => field?.focus() : undefined}
        rows={Math.min(8, note.split("\n").length + 1)}
        maxLength={2000}
        value={note}
        onChange={(event) => edit((recipe) => ({ ...recipe, note: event.target.value || null }), "note")}
      />
    </section>
  );
}

function PotSheet({ saved }: { saved: RecipeReply }) {
  const pot = useDraft(saved);
  const save = useSave(pot);
  const toast = useToast();
  const navigate = useNavigate();
  const [search] = useSearchParams();
  const { state, dispatch, edit } = pot;
  const saveNow = () => {
    if (pot.changed && !save.isPending) save.mutate(undefined, { onSuccess: () => toast("Saved") });
  };
  useKeys({
    "Ctrl+s": saveNow,
    "Ctrl+z": () => dispatch({ type: "undo" }),
    "Ctrl+y": () => dispatch({ type: "redo" }),
    "Alt+b": () => navigate("/"),
    "Alt+p": nextPrice,
  });
  const pushed = useLookedAt(state.recipe.id);
  return (
    <PotProvider value={pot}>
      <PotHead save={saveNow} saving={save.isPending} />
      <OtherDrafts />
      {pushed.length > 0 && (
        <p role="status" className="text-error my-2">
          ▲ Pushed past its target:{" "}
          {pushed.map((one) => `${servingName(saved, one)} by ${one.why}`).join(", ")}. You are looking at it
          now: the board marks it no longer.
        </p>
      )}
      {save.isError && <Conflict error={save.error} pot={pot} save={save} />}
      {pot.bad && (
        <p role="alert" className="bg-error text-error-content rounded px-3 py-1 my-2">
          {pot.bad.detail} <span className="text-sm">The figures are those from before.</span>
        </p>
      )}
      <div className="pot grid grid-cols-[minmax(0,1fr)_19rem] max-md:grid-cols-[minmax(0,1fr)] xl:grid-cols-[minmax(0,1fr)_21rem] gap-4 items-start">
        <div className="flex flex-col gap-3">
          {state.recipe.stages.map((stage, place) => (
            <StageBand
              key={stage.id}
              stage={stage}
              place={place}
              focus={search.has("new") && place === 0 && stage.lines.length === 0}
            />
          ))}
          <button type="button" className="btn btn-sm self-start no-print" onClick={() => edit(addStage)}>
            + Another tray or pot
          </button>
          <PotNote />
          <GiveOut saved={saved} />
          <p className="quiet text-sm no-print">
            In a line: <kbd>Alt ↑</kbd> <kbd>Alt ↓</kbd> move, from tray to pot as well, <kbd>Alt Delete</kbd>{" "}
            remove, <kbd>Alt W</kbd> working, <kbd>Alt I</kbd> what could stand for it. <kbd>Alt Shift ↑</kbd>{" "}
            <kbd>Alt Shift ↓</kbd> move the tray or pot. <kbd>Alt P</kbd> set a price, <kbd>Alt Q</kbd> what
            if, <kbd>Alt B</kbd> back to the board.
          </p>
        </div>
        <SideStrip />
      </div>
    </PotProvider>
  );
}
