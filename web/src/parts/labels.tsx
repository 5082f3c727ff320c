// Labels: what is known of them, and that somebody has read one. Nobody looked is never told as none.

import { useQueryClient } from "@tanstack/react-query";
import { refresh } from "../api/asked";
import { api, inWords, type Label, told } from "../api/client";
import { day } from "./format";
import { useKeptText } from "./kept";
import { useToast } from "./Toasts";
import { useSaving } from "./useSaving";

/** Who reads, asked once a tab; and the saying of it, which can be taken back. */
export function useReadLabels() {
  const [by, setBy] = useKeptText("reader");
  const client = useQueryClient();
  const toast = useToast();
  const save = useSaving({
    mutationFn: ({ items, read }: { items: string[]; read: boolean }) =>
      told<Label[]>(api.POST("/api/labels", { body: { items, by: by.trim() || "the kitchen", read } })),
    onSuccess: async (labels, { items, read }) => {
      await refresh(client, "item");
      const names = labels.map((one) => one.name).join(", ");
      if (read) toast(`Label read: ${names}`, { undo: () => save.mutate({ items, read: false }) });
      else toast(`Not read after all: ${names}`);
    },
    onError: (error) => toast(inWords(error), { bad: true }),
  });
  return { by, setBy, read: (items: string[]) => save.mutate({ items, read: true }), saving: save.isPending };
}

/** What is known of a label, in a sentence. */
export function labelInWords(label: Label): string {
  const read = label.check && `by ${label.check.by}, ${day(label.check.on)}, of ${label.article}`;
  switch (label.state) {
    case "contains":
      return `Read ${read}: ${label.noted.join(", ")}.`;
    case "none":
      return `Read ${read}: none on it.`;
    case "changed":
      return `Another article now (${label.article}) than the one that was read on ${day(label.check?.on ?? "")}: read its label.`;
    default:
      return label.noted.length > 0
        ? `Noted: ${label.noted.join(", ")}; whether that is all, nobody has read.`
        : "Not checked: nobody has read its label.";
  }
}

export function ReaderField({ by, setBy }: { by: string; setBy: (by: string) => void }) {
  return (
    <label className="flex items-center gap-1">
      <span className="quiet">read by</span>
      <input
        className="cell-input w-28"
        placeholder="e.g. your name"
        value={by}
        onChange={(event) => setBy(event.target.value)}
      />
    </label>
  );
}
