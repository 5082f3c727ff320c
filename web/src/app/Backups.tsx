// The back-ups that are kept: from when, how large, and one more by a click.

import { queryOptions, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { askAnew } from "../api/asked";
import { api, type Backup, inWords, told } from "../api/client";
import { dayOf } from "../parts/format";

const BACKUPS = queryOptions({
  queryKey: ["backups"],
  queryFn: () => told<Backup[]>(api.GET("/api/backups")),
});

const size = (bytes: number) =>
  bytes < 1e6 ? `${Math.ceil(bytes / 1000)} kB` : `${(bytes / 1e6).toFixed(1)} MB`;

export function Backups({ today }: { today: string }) {
  const kept = useQuery(BACKUPS);
  const client = useQueryClient();
  const take = useMutation({
    mutationFn: () => told<Backup>(api.POST("/api/backups")),
    onSuccess: () => askAnew(client, BACKUPS),
  });
  const newest = kept.data?.[0];
  return (
    <section className="mt-4 text-sm" aria-label="Back-ups">
      <div className="flex flex-wrap items-center gap-x-3">
        <h3 className="font-semibold text-base">Back-ups</h3>
        <span>
          {newest
            ? `the newest of ${dayOf(newest.on, today)}, ${size(newest.size)}; ${kept.data?.length} kept`
            : "none is kept yet: one is taken each day while Potrel runs"}
        </span>
        <button type="button" className="btn btn-xs" disabled={take.isPending} onClick={() => take.mutate()}>
          {take.isPending ? "Taking one …" : "Take one now"}
        </button>
      </div>
      {take.isError && (
        <p role="alert" className="text-error">
          {inWords(take.error)}
        </p>
      )}
      {(kept.data?.length ?? 0) > 1 && (
        <details>
          <summary className="link cursor-pointer w-fit list-none">All of them</summary>
          <ul className="max-h-40 overflow-auto">
            {kept.data?.map((one) => (
              <li key={one.name}>
                {dayOf(one.on, today)}, {size(one.size)} <span className="quiet">{one.name}</span>
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}
