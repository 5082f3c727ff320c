// The comparisons that the kitchen keeps, with what wins today.

import { Link } from "react-router";
import { inWords, type KeptComparison, type UsableForm } from "../../api/client";
import { compareAddress } from "../../parts/addresses";
import { useCurrency } from "../../parts/Figure";
import { kilo, litre, money, perUnit } from "../../parts/format";
import { Table } from "../../parts/kit/Table";
import { Remove } from "../../parts/Small";
import { useToast } from "../../parts/Toasts";
import { useComparisons, useDropComparison, useKeepComparison } from "./comparisons";

export function KeptComparisons() {
  const kept = useComparisons();
  const toast = useToast();
  const back = useKeepComparison((one) => toast(`${one.name} is back`));
  const drop = useDropComparison((one) =>
    toast(`${one.name} is no longer kept`, {
      undo: () => back.mutate({ comparison: one, seen: null }),
    }),
  );
  if (kept.isPending) return null;
  if (kept.isLoadingError) return <p role="alert">{inWords(kept.error)}</p>;
  if (kept.data.length === 0) return null;
  return (
    <>
      <h2 className="font-semibold mt-5 mb-2">Kept, as they stand today</h2>
      {drop.isError && (
        <p role="alert" className="text-error mb-2">
          {inWords(drop.error)}
        </p>
      )}
      <Table
        caption="Comparisons that are kept"
        heads={[
          "Comparison",
          "For",
          "Cheapest to buy",
          "Cheapest with the labour",
          { text: "Let go", unseen: true },
        ]}
      >
        {kept.data.map((one) => (
          <Row
            key={one.comparison.id}
            kept={one}
            busy={drop.isPending}
            drop={() => drop.mutate(one.comparison)}
          />
        ))}
      </Table>
    </>
  );
}

function Row({ kept, busy, drop }: { kept: KeptComparison; busy: boolean; drop: () => void }) {
  const { comparison, found, lack } = kept;
  const unit = comparison.unit ?? "kg";
  const formOf = (form: string | null | undefined) => found?.forms.find((one) => one.form === form);
  return (
    <tr className="hover:bg-base-200">
      <th scope="row">
        <Link className="link link-hover" to={compareAddress(comparison)}>
          {comparison.name}
        </Link>
      </th>
      <td className="quiet">{unit === "l" ? `a ready ${litre()}` : `a usable ${kilo()}`}</td>
      {found === null ? (
        <td colSpan={2} className="text-error">
          {lack}
        </td>
      ) : (
        <>
          <Winner form={formOf(found.cheapest)} unit={unit} of="cost" />
          <Winner form={formOf(found.cheapest_with_labour)} unit={unit} of="total" />
        </>
      )}
      <td className="text-right">
        <Remove label={`Let ${comparison.name} go`} remove={drop} disabled={busy} />
      </td>
    </tr>
  );
}

interface WinnerProps {
  form: UsableForm | undefined;
  unit: string;
  of: "cost" | "total";
}

function Winner({ form, unit, of }: WinnerProps) {
  const currency = useCurrency();
  if (!form) return <td className="quiet">not known yet</td>;
  return (
    <td>
      <span className="money">{money(perUnit(form[of], unit), currency)}</span> {form.name}
    </td>
  );
}
