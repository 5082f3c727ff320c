// The bench: a test sheet beside the scale. It may be left half done and gone on with later, on any screen.

import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams, useSearchParams } from "react-router";
import { inWords } from "../../api/client";
import { useKitchen } from "../../api/kitchen";
import { newId } from "../../parts/newId";
import { BenchSheet } from "./BenchSheet";
import { blankSheet, SHEETS_HERE, sheetFrom } from "./sheet";
import { SHEETS } from "./useSheet";
import { TREATMENTS, type Treatment } from "./words";

const isTreatment = (text: string): text is Treatment => TREATMENTS.some(([one]) => one === text);

export function BenchRoom() {
  const { sheet } = useParams();
  const [asked] = useSearchParams();
  const [fresh] = useState(() => newId("test"));
  const kitchen = useKitchen();
  const sheets = useQuery({ ...SHEETS, enabled: sheet !== undefined, staleTime: 0 });
  if (!kitchen.data || (sheet !== undefined && sheets.isPending)) return <p>Laying out the bench …</p>;
  const kind = asked.get("kind") ?? "";
  const blank = blankSheet(
    isTreatment(kind) ? kind : "trim",
    asked.get("item") ?? "",
    asked.get("of") ?? "",
    kitchen.data.today,
  );
  if (sheet === undefined)
    return (
      <BenchSheet key={`${fresh}${asked}`} id={fresh} start={blank} since={null} kitchen={kitchen.data} />
    );
  const kept = sheets.data?.find((one) => one.id === sheet);
  if (!kept && SHEETS_HERE.kept(sheet) === null) {
    if (sheets.isLoadingError) return <p role="alert">{inWords(sheets.error)}</p>;
    return <p className="sheet p-6">This sheet is recorded, or nobody wanted it any more.</p>;
  }
  const start = kept ? sheetFrom(kept.body, blank) : blank;
  const since = kept?.changed_at ?? null;
  return <BenchSheet key={sheet} id={sheet} start={start} since={since} kitchen={kitchen.data} />;
}
