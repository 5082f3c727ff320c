// Asks for the weight of one of a unit, where it is met, once.

import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { refresh } from "../api/asked";
import { api, type ItemReply, inWords, told } from "../api/client";
import { KnownWeights } from "./KnownWeights";
import { BASES, type Measure, shortMeasure } from "./measures";
import { inUnitOf } from "./QuantityInput";
import { SmallChoice } from "./Small";
import { useSaving } from "./useSaving";

/** Saves the weight of one of a unit with the item, so that it is never asked for again. */
export function WeighOne({ item, unit, message }: { item: string; unit: string; message: string }) {
  const [weight, setWeight] = useState("");
  const [basis, setBasis] = useState<"AP" | "EP">("AP");
  const client = useQueryClient();
  const save = useSaving({
    mutationFn: async (said: Measure) => {
      const params = { path: { item_id: item } };
      const { item: was } = await told<ItemReply>(api.GET("/api/items/{item_id}", { params }));
      const changed = { ...was, measures: { ...was.measures, [unit]: shortMeasure(said) } };
      return told(api.PUT("/api/items/{item_id}", { params, body: { item: changed, was } }));
    },
    onSuccess: () => refresh(client, "item"),
  });
  return (
    <form
      className="flex flex-wrap items-center gap-2 text-sm"
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate({ weighs: inUnitOf(weight.trim(), "60 g"), basis });
      }}
    >
      <span className="text-error">{message}</span>
      <label className="flex items-center gap-1">
        1 {unit} weighs
        <input
          className="input input-xs w-20"
          aria-label={`Weight of 1 ${unit}`}
          placeholder="e.g. 60 g"
          value={weight}
          onChange={(event) => setWeight(event.target.value)}
        />
      </label>
      <SmallChoice label="weighed" value={basis} choices={BASES} set={setBasis} />
      <button type="submit" className="btn btn-xs" disabled={!weight.trim() || save.isPending}>
        Keep it
      </button>
      <KnownWeights item={item} unit={unit} take={save.mutate} busy={save.isPending} />
      {save.isError && <span role="alert">{inWords(save.error)}</span>}
    </form>
  );
}
