// Sheets that wait to be finished, on whatever screen they were begun.

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { askAnew } from "../../api/asked";
import { api, type SheetRow, told } from "../../api/client";
import { Remove } from "../../parts/Small";
import { useToast } from "../../parts/Toasts";
import { SHEETS_HERE } from "./sheet";
import { SHEETS } from "./useSheet";

export function HalfDone() {
  const sheets = useQuery(SHEETS);
  const client = useQueryClient();
  const toast = useToast();
  const refresh = () => askAnew(client, { queryKey: SHEETS.queryKey });
  const put = useMutation({
    mutationFn: (one: SheetRow) =>
      told(
        api.PUT("/api/test-sheets/{sheet_id}", {
          params: { path: { sheet_id: one.id } },
          body: { item: one.item, body: one.body },
        }),
      ),
    onSuccess: refresh,
  });
  const drop = useMutation({
    mutationFn: (one: SheetRow) =>
      told(api.DELETE("/api/test-sheets/{sheet_id}", { params: { path: { sheet_id: one.id } } })),
    onSuccess: (_, one) => {
      SHEETS_HERE.forget(one.id);
      toast(`The sheet of ${one.item_name} is gone`, { undo: () => put.mutate(one) });
      return refresh();
    },
  });
  if (!sheets.data || sheets.data.length === 0) return null;
  return (
    <section
      className="sheet px-4 py-2 mb-3 flex flex-wrap gap-x-5 gap-y-1 items-center"
      aria-label="Half done"
    >
      <strong>Half done:</strong>
      {sheets.data.map((one) => (
        <span key={one.id} className="whitespace-nowrap">
          <Link className="link" to={`/trim/bench/${one.id}`}>
            {one.item_name}
          </Link>{" "}
          <span className="quiet text-sm">{one.started_by}</span>{" "}
          <Remove label={`Drop the sheet of ${one.item_name}`} remove={() => drop.mutate(one)} />
        </span>
      ))}
    </section>
  );
}
