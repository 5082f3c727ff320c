// From whom: a supplier that is known, or the name of a new one.

import type { Supplier } from "../api/client";
import { SmallChoice, SmallField } from "./Small";

/** The choice that stands for a supplier of whom nothing is known yet. */
export const NEW = "+";

interface Props {
  suppliers: Supplier[];
  supplier: string;
  choose: (id: string) => void;
  newName: string;
  setName: (name: string) => void;
}

export function SupplierField({ suppliers, supplier, choose, newName, setName }: Props) {
  const choices = [
    ...suppliers.map((one) => [one.id, one.name] as const),
    [NEW, "a new supplier …"] as const,
  ];
  return (
    <>
      <SmallChoice label="from" value={supplier} choices={choices} set={choose} />
      {supplier === NEW && (
        <SmallField label="named" width="w-32" value={newName} set={(name) => setName(name ?? "")} />
      )}
    </>
  );
}
