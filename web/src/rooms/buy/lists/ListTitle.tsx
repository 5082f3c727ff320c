// The head of a list under review: what it is, whose, of when, and what became of it.

import { Link } from "react-router";
import type { ReviewReply } from "../../../api/client";
import { useKitchen } from "../../../api/kitchen";
import { day } from "../../../parts/format";
import { SmallChoice } from "../../../parts/Small";
import { Became, KINDS } from "./ListsRoom";
import { SupplierChoice } from "./SupplierChoice";
import { capital } from "./states";

export function ListTitle({
  head,
  set,
  settled,
}: {
  head: ReviewReply;
  set: (said: { supplier?: string; kind?: ReviewReply["row"]["kind"] }) => void;
  settled: boolean;
}) {
  const kitchen = useKitchen();
  const { row } = head;
  const supplier = kitchen.data?.suppliers.find((one) => one.id === row.supplier);
  return (
    <div>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <h1 className="text-xl font-semibold">
          {capital(KINDS[row.kind])} {row.document} {supplier && `of ${supplier.name}`}
        </h1>
        {head.on && <span>of {day(head.on)}</span>}
        <Link className="btn btn-sm ml-auto" to="/buy/lists">
          Back to the lists <kbd>Esc</kbd>
        </Link>
      </div>
      <div className="flex flex-wrap items-center gap-x-4 text-sm">
        <span className="quiet">{row.file_name}</span>
        {!settled && (
          <>
            <SupplierChoice
              value={row.supplier ?? null}
              said={head.said_supplier ?? null}
              set={(id) => set({ supplier: id })}
            />
            {head.heads.length > 0 && (
              <SmallChoice
                label="it is"
                value={row.kind}
                choices={[
                  ["price_list", "a price list"],
                  ["delivery", "an invoice: it was delivered"],
                  ["credit_note", "a credit note"],
                ]}
                set={(kind) => set({ kind })}
              />
            )}
          </>
        )}
        <Became one={row} />
      </div>
      {head.notes.map((note) => (
        <p key={note} className="text-sm">
          {note}
        </p>
      ))}
    </div>
  );
}
