// Whose list it is: a supplier that is known, or a new one.

import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { refresh } from "../../../api/asked";
import { inWords } from "../../../api/client";
import { useKitchen } from "../../../api/kitchen";
import { addSupplier } from "../../../parts/addSupplier";
import { SmallChoice } from "../../../parts/Small";
import { useSaving } from "../../../parts/useSaving";

const NEW = "+";

interface Props {
  value: string | null;
  said: string | null;
  set: (id: string) => void;
}

export function SupplierChoice({ value, said, set }: Props) {
  const kitchen = useKitchen();
  const client = useQueryClient();
  const suppliers = kitchen.data?.suppliers ?? [];
  // Whom the list names, and nobody here knows, is a new one: that is proposed, and nothing is written yet.
  const [name, setName] = useState<string | null>(value === null ? said : null);
  const add = useSaving({
    mutationFn: (called: string) => addSupplier(called, suppliers),
    onSuccess: async (id) => {
      await refresh(client, "supplier");
      setName(null);
      set(id);
    },
  });
  if (name !== null) {
    return (
      <form
        className="flex items-center gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (name.trim()) add.mutate(name.trim());
        }}
      >
        <label className="flex items-center gap-1">
          <span className="quiet">new supplier</span>
          <input
            className="input input-xs w-44"
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        <button type="submit" className="btn btn-xs btn-primary" disabled={add.isPending}>
          Add
        </button>
        {suppliers.length > 0 && (
          <button type="button" className="link quiet" onClick={() => setName(null)}>
            it is one of ours
          </button>
        )}
        {add.isError && (
          <span role="alert" className="text-error">
            {inWords(add.error)}
          </span>
        )}
      </form>
    );
  }
  return (
    <SmallChoice
      label="list of"
      value={value ?? ""}
      choices={[
        ...(value ? [] : [["", "choose the supplier"] as const]),
        ...suppliers.map((one) => [one.id, one.name] as const),
        [NEW, "a new supplier …"] as const,
      ]}
      set={(id) => (id === NEW ? setName(said ?? "") : id && set(id))}
    />
  );
}
