// Names a new pot and puts it on.

import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { api, inWords, told } from "../../api/client";
import { NAMES, refreshAll } from "../../app/kitchen";
import { idFor } from "../../parts/format";
import { newRecipe } from "./blank";

export function NewPot({ leave, made }: { leave: () => void; made: (id: string) => void }) {
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => dialog.current?.showModal(), []);
  const [name, setName] = useState("");
  const client = useQueryClient();
  const add = useMutation({
    mutationFn: async () => {
      const names = await client.ensureQueryData(NAMES);
      const id = idFor(name, (one) => names.some((known) => known.id === one));
      await told(
        api.POST("/api/recipes", { body: { recipe: newRecipe(id, name.trim()), by: "the kitchen" } }),
      );
      return id;
    },
    onSuccess: async (id) => {
      await refreshAll(client);
      made(id);
    },
  });
  return (
    <dialog ref={dialog} className="modal" onClose={leave} aria-labelledby="new-pot">
      <form
        className="modal-box"
        onSubmit={(event) => {
          event.preventDefault();
          if (name.trim()) add.mutate();
        }}
      >
        <h2 id="new-pot" className="text-xl font-semibold mb-3">
          A new pot
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
            Put it on <kbd className="text-base-content">Enter</kbd>
          </button>
        </div>
      </form>
    </dialog>
  );
}
