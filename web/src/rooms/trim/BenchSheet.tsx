// A test sheet: what is weighed, in the order in which it is weighed, what that tells so far, and recording it.

import { useMutation, useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { flushSync } from "react-dom";
import { useNavigate } from "react-router";
import { api, type ItemReply, inWords, type KitchenHead, told } from "../../api/client";
import { useNames } from "../../api/kitchen";
import { yieldAddress } from "../../parts/addresses";
import { lasting } from "../../parts/browserStore";
import { useKeys } from "../../parts/keys";
import { Panel } from "../../parts/kit/Panel";
import { Table } from "../../parts/kit/Table";
import { Picker } from "../../parts/Picker";
import { SmallChoice } from "../../parts/Small";
import { useToast } from "../../parts/Toasts";
import { useStillHere } from "../../parts/useStillHere";
import { AboutSheet } from "./AboutSheet";
import { MethodTable } from "./Methods";
import { ScalePanel } from "./ScalePanel";
import { SoFar } from "./SoFar";
import { EMPTY_PART, type Sheet, type SheetPart } from "./sheet";
import { ToBook } from "./ToBook";
import { useScale, useTaking } from "./useScale";
import { useSheet } from "./useSheet";
import { WeightRow } from "./WeightRow";
import { usualParts, WhichYield } from "./WhichYield";
import { BENCH, TREATMENTS } from "./words";

interface Props {
  id: string;
  start: Sheet;
  since: string | null;
  kitchen: KitchenHead;
}

const TARE_EACH = "potrel:tare-each";

export function BenchSheet({ id, start, since, kitchen }: Props) {
  const names = useNames();
  const navigate = useNavigate();
  const stillHere = useStillHere();
  const toast = useToast();
  const {
    sheet,
    set,
    setSheet,
    told: so,
    record,
    keep,
    begun,
    stale,
    settle,
  } = useSheet(id, start, since, (done) => {
    toast("Recorded");
    const sort = done.kind === "cooking" ? "cooking" : "preparation";
    if (stillHere()) navigate(yieldAddress({ item: done.item, sort, of: done.of.trim() }));
  });
  const form = useRef<HTMLDivElement>(null);
  const [picking, setPicking] = useState(start.item === "");
  const [target, setTarget] = useState<string | null>(null);
  const [tareEach, setTareEach] = useState(() => lasting.get(TARE_EACH) === "yes");
  const item = useQuery({
    queryKey: ["item", sheet.item],
    queryFn: () =>
      told<ItemReply>(api.GET("/api/items/{item_id}", { params: { path: { item_id: sheet.item } } })),
    enabled: sheet.item !== "",
  });
  // A sheet that begins at a known preparation lays out what usually falls off there, once.
  const laidOut = useRef(begun || start.of === "" || start.kind === "cooking");
  useEffect(() => {
    if (laidOut.current || !item.data) return;
    laidOut.current = true;
    const parts = usualParts(item.data.item, start.of);
    setSheet((now) => (now.parts.length === 0 ? { ...now, parts } : now));
  }, [item.data, start.of, setSheet]);
  const tare = useMutation({ mutationFn: () => told(api.POST("/api/scale/tare")) });
  const bench = BENCH[sheet.kind];
  const rows: [string, string][] = [
    ["before", bench.before],
    ["after", bench.after],
    ...sheet.parts.map((part, at) => [`parts.${at + 1}`, part.name || `part ${at + 1}`] as [string, string]),
  ];
  const setPart = (at: number, patch: Partial<SheetPart>) =>
    setSheet((now) => ({
      ...now,
      parts: now.parts.map((one, place) => (place === at ? { ...one, ...patch } : one)),
    }));
  const write = (field: string, mass: string) => {
    if (field === "before" || field === "after") set({ [field]: mass });
    else setPart(Number(field.split(".")[1]) - 1, { mass });
  };
  const focus = (field: string | undefined) =>
    form.current?.querySelector<HTMLInputElement>(`input[data-weight="${field}"]`)?.focus();
  const next = (field: string) => focus(rows[rows.findIndex(([one]) => one === field) + 1]?.[0]);
  const reading = useScale();
  const { armed, arm, same } = useTaking(reading, (field, grams) => {
    write(field, `${grams} g`);
    if (tareEach) tare.mutate();
    next(field);
  });
  const take = (field: string | null) => field !== null && reading.state === "live" && arm(field);
  const addPart = (part: SheetPart = EMPTY_PART) => {
    const at = sheet.parts.length + 1;
    // Its row has to stand before it can have the focus.
    flushSync(() => setSheet((now) => ({ ...now, parts: [...now.parts, part] })));
    focus(`parts.${at}`);
  };
  useKeys({
    "Alt+t": () => reading.state === "live" && tare.mutate(),
    // The key is written on the button: what it says then is so, the key says too.
    "Ctrl+Enter": () =>
      so.data?.ready && !record.isPending && record.mutate(so.data.weights?.asks_again ?? false),
    "Alt+p": () => addPart(),
  });
  const named = names.data?.find((one) => !one.is_recipe && one.id === sheet.item);
  const choose = (chosen: string) => {
    set({ item: chosen, of: "", parts: [] });
    setPicking(false);
  };
  const problem = (field: string) => so.data?.problems.find((one) => one.field === field)?.message;
  const targetName = rows.find(([one]) => one === target)?.[1] ?? null;
  return (
    <>
      <ToBook />
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2 mb-3">
        <h1 className="text-xl font-semibold">Test at the bench</h1>
        <SmallChoice
          label="kind"
          value={sheet.kind}
          choices={TREATMENTS}
          set={(kind) => set({ kind, of: "" })}
        />
        {picking && names.data ? (
          <Picker
            names={names.data.filter((one) => !one.is_recipe)}
            label="What is tested"
            pick={(one) => choose(one.id)}
            leave={() => sheet.item !== "" && setPicking(false)}
          />
        ) : (
          <button
            type="button"
            className="btn btn-sm max-w-full h-auto whitespace-normal [overflow-wrap:anywhere]"
            onClick={() => setPicking(true)}
          >
            {named?.name ?? "choose an item"}
          </button>
        )}
        {item.data && <WhichYield sheet={sheet} item={item.data.item} set={set} />}
        <span className="quiet text-sm ml-auto">
          {stale ? (
            <span role="alert" className="text-error">
              Another screen went on with this sheet.{" "}
              <button type="button" className="link" onClick={() => settle("theirs")}>
                Take theirs
              </button>{" "}
              <button type="button" className="link" onClick={() => settle("mine")}>
                Keep mine
              </button>
            </span>
          ) : keep.isError ? (
            <span className="text-error">kept in this browser; the server does not take it yet</span>
          ) : begun ? (
            "kept: leave it any time and go on later"
          ) : (
            "kept from the first weight on"
          )}
        </span>
      </div>
      {sheet.item === "" ? (
        <p className="sheet p-8 max-w-xl">
          Choose what lies on the bench: then weigh it before and after, and everything that falls off.
        </p>
      ) : (
        <div
          className="grid grid-cols-[minmax(0,1fr)_21rem] max-md:grid-cols-[minmax(0,1fr)] gap-4 items-start"
          ref={form}
        >
          <div className="grid grid-cols-[minmax(0,1fr)] gap-4">
            <Panel label="Weights">
              <p className="text-sm border-l-4 border-error pl-3 mb-3">
                {bench.caution} Trained people and your local rules decide.
              </p>
              <Table caption="What is weighed" look="plain" className="w-full" heads={[]}>
                {rows.map(([field, label], place) => (
                  <WeightRow
                    key={field}
                    field={field}
                    label={label}
                    part={place > 1 ? sheet.parts[place - 2] : undefined}
                    setPart={(patch) => setPart(place - 2, patch)}
                    drop={() => set({ parts: sheet.parts.filter((_, at) => at !== place - 2) })}
                    value={
                      field === "before"
                        ? sheet.before
                        : field === "after"
                          ? sheet.after
                          : (sheet.parts[place - 2]?.mass ?? "")
                    }
                    set={(mass) => {
                      // Who types no longer waits for the scale.
                      arm(null);
                      write(field, mass);
                    }}
                    problem={problem(place > 1 ? `${field}.mass` : field)}
                    otherProblem={problem(`${field}.name`) ?? problem(`${field}.value_per_kg`)}
                    target={target === field}
                    armed={armed === field}
                    aim={() => setTarget(field)}
                    enter={(empty) => (empty ? take(field) : next(field))}
                  />
                ))}
              </Table>
              <button type="button" className="link quiet mt-2" onClick={() => addPart()}>
                + something that falls off <kbd>Alt P</kbd>
              </button>
            </Panel>
            <AboutSheet sheet={sheet} set={set} kitchen={kitchen} problem={problem} />
            {(so.data?.methods.length ?? 0) > 0 && (
              <Panel label="By-product methods" title="What each way of sharing makes of it">
                <MethodTable
                  methods={so.data?.methods ?? []}
                  paid={so.data?.money?.paid ?? null}
                  item={sheet.item}
                />
              </Panel>
            )}
          </div>
          <div className="grid grid-cols-[minmax(0,1fr)] gap-4">
            <ScalePanel
              reading={reading}
              armed={armed}
              same={same}
              target={targetName}
              take={() => take(target)}
              tare={() => tare.mutate()}
              tareEach={tareEach}
              setTareEach={(on) => {
                setTareEach(on);
                lasting.put(TARE_EACH, on ? "yes" : "no");
              }}
            />
            {tare.isError && (
              <p role="alert" className="text-error text-sm">
                {inWords(tare.error)}
              </p>
            )}
            <SoFar found={so.data} error={so.isError ? inWords(so.error) : null} record={record} />
          </div>
        </div>
      )}
    </>
  );
}
