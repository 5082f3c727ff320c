// Names a new item.

import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { NameDialog } from "../../parts/NameDialog";
import { addItem } from "./newItem";

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

export function NewItem({ leave, made }: { leave: () => void; made: (id: string) => void }) {
  const [kind, setKind] = useState("vegetable");
  const client = useQueryClient();
  const add = useMutation({
    mutationFn: (name: string) => addItem(client, name, kind),
    onSuccess: (id) => {
      leave();
      made(id);
    },
  });
  return (
    <NameDialog title="A new item" action="Add it" error={add.error} submit={add.mutate} leave={leave}>
      <label className="flex flex-col gap-1 mt-3">
        What kind is it?
        <select className="select w-full" value={kind} onChange={(event) => setKind(event.target.value)}>
          {KINDS.map((one) => (
            <option key={one}>{one}</option>
          ))}
        </select>
      </label>
    </NameDialog>
  );
}
