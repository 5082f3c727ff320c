// What the pot's goods lack, all at once: pack, price, supplier, and the weight of a measure.

import type { PasteAsked, PasteGoods, Supplier } from "../../../api/client";
import { KnownWeights } from "../../../parts/KnownWeights";
import { Panel } from "../../../parts/kit/Panel";
import { Table } from "../../../parts/kit/Table";

interface Props {
  goods: PasteAsked[];
  told: Record<string, PasteGoods>;
  tell: (item: string, said: Partial<PasteGoods>) => void;
  supplierOf: (item: string, proposed: string) => string;
  suppliers: Supplier[];
}

export function AskedGoodsTable({ goods, told, tell, supplierOf, suppliers }: Props) {
  if (goods.length === 0) return null;
  const nameOf = (id: string) => suppliers.find((one) => one.id === id)?.name ?? id;
  return (
    <Panel label="What is asked" title="What it costs, and weighs" look="tight">
      <Table
        caption="Prices and weights that are not known yet"
        look="plain"
        heads={["Item", "Pack", "Price", "From", "Weighs"].map((text) => ({ text, className: "text-left" }))}
      >
        {goods.map((one) => {
          const said = told[one.item];
          return (
            <tr key={one.item}>
              <th scope="row" className="font-semibold text-left pr-3">
                {one.name}{" "}
                {one.is_new && (
                  <span className="quiet text-xs font-normal">
                    {one.from_shelf ? "new, from the shelf" : "new"}
                  </span>
                )}
                {(one.allergens?.length ?? 0) > 0 && (
                  <span className="quiet block text-xs font-normal">
                    read its label: {one.allergens?.join(", ")}
                  </span>
                )}
                {one.problem && (
                  <span role="alert" className="block text-error text-xs font-normal">
                    {one.problem}
                  </span>
                )}
              </th>
              {one.has_price && !said?.price ? (
                <td colSpan={3} className="quiet">
                  its price is known
                </td>
              ) : (
                <>
                  <td>
                    <input
                      className="cell-input w-24"
                      aria-label={`Pack of ${one.name}`}
                      placeholder="1 kg"
                      value={said?.pack ?? ""}
                      onChange={(event) => tell(one.item, { pack: event.target.value })}
                    />
                  </td>
                  <td>
                    <input
                      className="cell-input w-20 text-right"
                      aria-label={`Price of ${one.name}`}
                      inputMode="decimal"
                      placeholder={one.kind === "water" ? "0 if free" : "?"}
                      value={said?.price ?? ""}
                      onChange={(event) => tell(one.item, { price: event.target.value })}
                    />
                  </td>
                  <td>
                    <input
                      className="cell-input w-44"
                      aria-label={`Supplier of ${one.name}`}
                      list="paper-suppliers"
                      placeholder="e.g. a farm"
                      value={said?.supplier || nameOf(supplierOf(one.item, one.supplier))}
                      onChange={(event) => tell(one.item, { supplier: event.target.value })}
                    />
                  </td>
                </>
              )}
              <td>
                {one.weights.map((unit) => (
                  <Weight
                    key={unit}
                    of={one}
                    unit={unit}
                    said={said?.weights?.[unit] ?? ""}
                    say={(weight) => tell(one.item, { weights: { ...said?.weights, [unit]: weight } })}
                  />
                ))}
              </td>
            </tr>
          );
        })}
      </Table>
      <datalist id="paper-suppliers">
        {suppliers.map((one) => (
          <option key={one.id} value={one.name} />
        ))}
      </datalist>
    </Panel>
  );
}

interface WeightProps {
  of: PasteAsked;
  unit: string;
  said: string;
  say: (weight: string) => void;
}

/** What one weighs: typed, or taken from the last delivery whose pieces were counted and weighed. */
function Weight({ of, unit, said, say }: WeightProps) {
  return (
    <span className="flex flex-wrap items-center gap-1 text-sm">
      <label className="flex items-center gap-1">
        1 {unit} =
        <input
          className="cell-input w-20"
          aria-label={`Weight of 1 ${unit} of ${of.name}`}
          placeholder="e.g. 60 g"
          value={said}
          onChange={(event) => say(event.target.value)}
        />
      </label>
      {!of.is_new && !said && (
        <KnownWeights
          item={of.item}
          unit={unit}
          which={(one) => one.source == null}
          take={(one) => say(one.weighs)}
        />
      )}
    </span>
  );
}
