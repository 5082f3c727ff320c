// What is known already of the weight of one, offered to somebody who is asked for it: one key takes it.

import { useQuery } from "@tanstack/react-query";
import { api, type KnownWeight, told } from "../api/client";
import { day } from "./format";
import { type Measure, wholeMeasure } from "./measures";

interface Props {
  item: string;
  unit: string;
  /** Which of them can be taken here; all where nothing is said. */
  which?: (one: Measure) => boolean;
  take: (one: Measure) => void;
  busy?: boolean;
}

export function KnownWeights({ item, unit, which = () => true, take, busy = false }: Props) {
  const found = useQuery({
    queryKey: ["weights-of-one", item, unit],
    queryFn: () =>
      told<KnownWeight[]>(
        api.GET("/api/items/{item_id}/weights-of-one", {
          params: { path: { item_id: item }, query: { unit } },
        }),
      ),
  });
  return (
    <>
      {found.data?.map((one) => {
        const measure = wholeMeasure(one.measure);
        if (!which(measure)) return null;
        return (
          <button
            key={one.said_by}
            type="button"
            className="btn btn-xs font-normal h-auto py-1 text-left flex-wrap justify-start max-w-full"
            disabled={busy}
            onClick={() => take(measure)}
          >
            {measure.weighs}
            {measure.basis === "EP" && " ready to use"}
            <span className="quiet whitespace-normal">
              {one.said_by}
              {one.on && `, ${day(one.on)}`}
            </span>
          </button>
        );
      })}
    </>
  );
}
