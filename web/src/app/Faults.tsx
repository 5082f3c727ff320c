// What of the kitchen cannot be understood and is left out, and the way to mend it.

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { refreshAll } from "../api/asked";
import { api, type Fault, inWords, told } from "../api/client";
import { useSaving } from "../parts/useSaving";

const MENDS: Record<Fault["sort"], string> = {
  recipe: "Put it back to its last good revision",
  item: "Let go of what is wrong with it",
  offer: "",
};

export function Faults() {
  const found = useQuery({ queryKey: ["faults"], queryFn: () => told<Fault[]>(api.GET("/api/faults")) });
  if (!found.data || found.data.length === 0) return null;
  return (
    <section className="sheet border-error border-2 mx-5 mt-4 p-4 no-print" aria-label="Left out">
      <h2 className="font-semibold">
        {found.data.length} {found.data.length === 1 ? "thing is" : "things are"} left out: it cannot be
        understood
      </h2>
      <ul className="text-sm">
        {found.data.map((fault) => (
          <One key={`${fault.sort}/${fault.id}`} fault={fault} />
        ))}
      </ul>
    </section>
  );
}

function One({ fault }: { fault: Fault }) {
  const client = useQueryClient();
  const mend = useSaving({
    mutationFn: () =>
      told(
        api.POST("/api/faults/{sort}/{fault_id}/mend", {
          params: { path: { sort: fault.sort, fault_id: fault.id } },
        }),
      ),
    onSuccess: () => refreshAll(client),
  });
  return (
    <li className="flex flex-wrap items-center gap-x-3 py-1">
      <span>
        the {fault.sort === "offer" ? "price of" : fault.sort} <b>{fault.name}</b>: {fault.said}
      </span>
      {MENDS[fault.sort] ? (
        <button type="button" className="btn btn-xs" disabled={mend.isPending} onClick={() => mend.mutate()}>
          {MENDS[fault.sort]}
        </button>
      ) : (
        <span className="quiet">restore a back-up of before</span>
      )}
      {mend.isError && (
        <span role="alert" className="text-error">
          {inWords(mend.error)}
        </span>
      )}
    </li>
  );
}
