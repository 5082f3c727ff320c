// What is bought no more is archived; two items that are one are merged. Both can be taken back.

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { refresh } from "../../api/asked";
import { api, type Effects, type Item, inWords, type Merged, type Named, told } from "../../api/client";
import { useNames } from "../../api/kitchen";
import { EffectsTable } from "../../parts/EffectsTable";
import { Picker } from "../../parts/Picker";
import { useToast } from "../../parts/Toasts";
import { useSaving } from "../../parts/useSaving";

export function PutAway({ item }: { item: Item }) {
  const client = useQueryClient();
  const toast = useToast();
  const [merging, setMerging] = useState(false);
  const archive = useSaving({
    mutationFn: (archived: boolean) =>
      told(
        api.PUT("/api/items/{item_id}", {
          params: { path: { item_id: item.id } },
          body: { item: { ...item, archived }, was: { ...item, archived: !archived } },
        }),
      ),
    onSuccess: async (_, archived) => {
      await refresh(client, "item");
      toast(archived ? `${item.name} is archived` : `${item.name} is back`, {
        undo: () => archive.mutate(!archived),
      });
    },
  });
  return (
    <section aria-label="Put away" className="mt-4 border-t border-base-300 pt-2 text-sm">
      <button type="button" className="link" onClick={() => archive.mutate(!item.archived)}>
        {item.archived ? "Bring back" : "Archive"}
      </button>{" "}
      <span className="quiet">
        {item.archived
          ? "it is archived: it stays in its pots, and is offered nowhere"
          : "it stays in its pots, and is offered nowhere"}
      </span>
      {archive.isError && (
        <p role="alert" className="text-error">
          {inWords(archive.error)}
        </p>
      )}
      {!item.archived && (
        <p>
          {merging ? (
            <MergeInto item={item} leave={() => setMerging(false)} />
          ) : (
            <>
              <button type="button" className="link" onClick={() => setMerging(true)}>
                Merge into another item …
              </button>{" "}
              <span className="quiet">where two are one</span>
            </>
          )}
        </p>
      )}
    </section>
  );
}

function MergeInto({ item, leave }: { item: Item; leave: () => void }) {
  const names = useNames();
  const client = useQueryClient();
  const navigate = useNavigate();
  const toast = useToast();
  const [into, setInto] = useState<Named | null>(null);
  const others = (names.data ?? []).filter((one) => !one.is_recipe && one.id !== item.id);
  const path = { params: { path: { item_id: item.id } } };
  const preview = useQuery({
    queryKey: ["merge-preview", item.id, into?.id],
    queryFn: () =>
      told<Effects>(
        api.POST("/api/items/{item_id}/merge/preview", { ...path, body: { into: into?.id ?? "" } }),
      ),
    enabled: into !== null,
    retry: false,
  });
  const undo = useSaving({
    mutationFn: (done: Merged) => told(api.POST("/api/items/unmerge", { body: done })),
    onSuccess: async () => {
      await refresh(client, "item", "price", "recipe");
      toast(`${item.name} stands by itself again`);
    },
    onError: (error) => toast(inWords(error), { bad: true }),
  });
  const merge = useSaving({
    mutationFn: (chosen: Named) =>
      told<Merged>(api.POST("/api/items/{item_id}/merge", { ...path, body: { into: chosen.id } })),
    onSuccess: async (done, chosen) => {
      await refresh(client, "item", "price", "recipe");
      toast(`${item.name} is ${chosen.name} now`, { undo: () => undo.mutate(done) });
      navigate(`/buy/${chosen.id}`);
    },
  });
  if (!into) return <Picker names={others} label={`Merge ${item.name} into`} pick={setInto} leave={leave} />;
  return (
    <>
      {item.name} becomes {into.name}: its prices count there, its pots take that, and it is archived.
      {preview.data && <EffectsTable effects={preview.data.effects} />}
      {(merge.isError || preview.isError) && (
        <span role="alert" className="block text-error">
          {inWords(merge.error ?? preview.error)}
        </span>
      )}
      <button
        type="button"
        className="btn btn-sm btn-primary mr-2"
        disabled={merge.isPending || !preview.data}
        onClick={() => merge.mutate(into)}
      >
        Merge into {into.name}
      </button>
      <button type="button" className="btn btn-sm" onClick={leave}>
        Leave
      </button>
    </>
  );
}
