// Names a new item.

import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { api, type ItemRow, inWords, told } from "../../api/client";
import { refreshAll } from "../../app/kitchen";
import { idFor } from "../../parts/format";

const KINDS = [
  "vegetable",
  "root",
  "allium",
  "fruit",
  "herb",
  "meat",
  "bones",
  "fish",
  "dairy",
  "pulse",
  "can",
  "dry goods",
  "spice",
  "stock",
  "fat",
  "bread",
  "water",
  "packaging",
  "other",
];

export function NewItem({
  taken,
  leave,
  made,
}: {
  taken: ItemRow[];
  leave: () => void;
  made: (id: string) => void;
}) {
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => dialog.current?.showModal(), []);
  const [name, setName] = useState("");
  const [kind, setKind] = useState("vegetable");
  const client = useQueryClient();
  const add = useMutation({
    mutationFn: async () => {
      const id = idFor(name, (one) => taken.some((row) => row.id === one));
      const density = kind === "water" ? "1" : null;
      const item = {
        id,
        name: name.trim(),
        kind,
        density,
        preferred_supplier: null,
        measures: {},
        preparations: [],
        cooking: [],
        allergens: [],
      };
      await told(api.POST("/api/items", { body: { item } }));
      return id;
    },
    onSuccess: async (id) => {
      await refreshAll(client);
      dialog.current?.close();
      made(id);
    },
  });
  return (
    <dialog ref={dialog} className="modal" onClose={leave} aria-labelledby="new-item">
      <form
        className="modal-box"
        onSubmit={(event) => {
          event.preventDefault();
          if (name.trim()) add.mutate();
        }}
      >
        <h2 id="new-item" className="text-xl font-semibold mb-3">
          A new item
        </h2>
        <label className="flex flex-col gap-1">
          What is it called?
          <input
            autoFocus
            className="input w-full"
            value={name}
            maxLength={200}
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        <label className="flex flex-col gap-1 mt-3">
          What kind is it?
          <select className="select w-full" value={kind} onChange={(event) => setKind(event.target.value)}>
            {KINDS.map((one) => (
              <option key={one}>{one}</option>
            ))}
          </select>
        </label>
        {add.isError && (
          <p role="alert" className="text-error mt-2">
            {inWords(add.error)}
          </p>
        )}
        <div className="modal-action">
          <button type="button" className="btn btn-sm" onClick={() => dialog.current?.close()}>
            Leave <kbd>Esc</kbd>
          </button>
          <button type="submit" className="btn btn-sm btn-primary" disabled={!name.trim()}>
            Add it
          </button>
        </div>
      </form>
    </dialog>
  );
}
