// What could stand for a line, each way tried in this pot, side by side. One click takes a way; nothing is saved by it.

import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { api, type Exchange, inWords, type Recipe, told } from "../../api/client";
import { useCurrency } from "../../parts/Figure";
import {
  aKilo,
  aLitre,
  litres,
  mass,
  money,
  NOT_KNOWN,
  percent,
  perKilo,
  perLitre,
  thickness,
  trimmed,
} from "../../parts/format";
import { useAnother } from "./another";

const TITLES = {
  stock: "Make it or buy it",
  thickener: "Another way to the same thickness",
  strength: "As strong in another form",
};

interface Props {
  recipe: Recipe;
  stage: string;
  line: string;
  take: (recipe: Recipe, name: string) => void;
  leave: () => void;
}

export function ExchangePanel({ recipe, stage, line, take, leave }: Props) {
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => dialog.current?.showModal(), []);
  const found = useQuery({
    queryKey: ["exchange", recipe, stage, line],
    queryFn: () => told<Exchange>(api.POST("/api/exchange", { body: { recipe, stage, line } })),
    staleTime: 0,
    gcTime: 0,
    retry: false,
  });
  return (
    <dialog ref={dialog} className="modal" onClose={leave} aria-labelledby="exchange-heading">
      <div className="modal-box max-w-5xl">
        <h2 id="exchange-heading" className="text-xl font-semibold">
          {found.data ? `${TITLES[found.data.sort]}: ${found.data.name}` : "Trying what could stand for it …"}
        </h2>
        {found.isError && (
          <p role="alert" className="text-error">
            {inWords(found.error)}
          </p>
        )}
        {found.data && <Ways found={found.data} serving={recipe.servings[0]?.name} take={take} />}
        <div className="modal-action">
          <button type="button" className="btn btn-sm" onClick={() => dialog.current?.close()}>
            Leave it as it is <kbd>Esc</kbd>
          </button>
        </div>
      </div>
    </dialog>
  );
}

interface WaysProps {
  found: Exchange;
  serving: string | undefined;
  take: Props["take"];
}

function Ways({ found, serving, take }: WaysProps) {
  const currency = useCurrency();
  const another = useAnother();
  const isStock = found.sort === "stock";
  const sorted = [...found.ways].sort(
    (a, b) => Number(b.now) - Number(a.now) || (Number(a.food_cost) || 1e9) - (Number(b.food_cost) || 1e9),
  );
  return (
    <>
      <p className="quiet text-sm">
        {found.sort === "thickener" &&
          "Grams for the same thickness (common practice, wide bands); liquid makes up for it, so that the batch stays. "}
        {found.sort === "strength" && "As much as is as strong: common practice, with a wide band. Taste. "}
        {isStock && "A litre ready to use: food, and what making it takes of labour and energy. "}
        Taking a way changes the draft; Undo takes it back.
      </p>
      <div className="max-h-[55vh] overflow-auto mt-2">
        <table className="w-full text-sm [&_.num]:pl-3" aria-label="Ways, side by side">
          <thead>
            <tr className="quiet text-xs">
              <th scope="col" className="text-left font-normal">
                goes in
              </th>
              {isStock && (
                <th scope="col" className="num font-normal">
                  {aLitre()}: food
                </th>
              )}
              {isStock && (
                <th scope="col" className="num font-normal">
                  with labour, energy
                </th>
              )}
              <th scope="col" className="num font-normal">
                a {serving ?? "batch"} costs
              </th>
              <th scope="col" className="num font-normal">
                salt
              </th>
              <th scope="col" className="num font-normal">
                {isStock ? "thickness" : "kcal"}
              </th>
              <th scope="col" className="text-left pl-4 font-normal">
                mind
              </th>
              <th scope="col">
                <span className="sr-only">Take it</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {sorted.map((way) => {
              const first = [...way.brings.map((one) => `brings ${one}`), ...way.diets_lost];
              return (
                <tr
                  key={`${way.name} ${way.amount}`}
                  className={`border-t border-base-300 align-top ${way.now ? "font-semibold" : ""}`}
                >
                  <th scope="row" className="text-left font-[inherit] py-1 max-w-72">
                    {way.name}
                    <span className="quiet block text-xs">
                      {way.amount}
                      {way.low_g !== null &&
                        way.high_g !== null &&
                        ` (${mass(way.low_g)} to ${mass(way.high_g)})`}
                    </span>
                  </th>
                  {isStock && <td className="num money">{money(perLitre(way.liquid?.food), currency)}</td>}
                  {isStock && <td className="num money">{money(perLitre(way.liquid?.total), currency)}</td>}
                  <td className="num money">{money(way.food_cost, currency)}</td>
                  <td className="num">{percent(way.salt_share, 2)}</td>
                  <td className="num">
                    {isStock
                      ? thickness(way.thickness_g_per_l, way.thickness_at_least)
                      : way.energy_kcal === null
                        ? NOT_KNOWN
                        : trimmed(way.energy_kcal, 0)}
                  </td>
                  <td className="px-4 max-w-72">
                    {first.length > 0 && <span className="text-error">{first.join("; ")}. </span>}
                    {way.mind}
                    {!way.complete && <span className="text-error"> a price is missing</span>}
                  </td>
                  <td className="text-right">
                    {way.now ? (
                      <span className="quiet">as it is</span>
                    ) : (
                      <span className="flex gap-1 justify-end">
                        <button
                          type="button"
                          className="btn btn-xs"
                          aria-label={`Take ${way.name}`}
                          onClick={() => take(way.recipe, way.name)}
                        >
                          Take
                        </button>
                        <button
                          type="button"
                          className="btn btn-xs btn-ghost text-base-content"
                          aria-label={`A new pot with ${way.name}`}
                          title="Keep this pot as it is, and put one with this beside it"
                          disabled={another.isPending}
                          onClick={() =>
                            another.mutate({
                              recipe: { ...way.recipe, variant_of: way.recipe.variant_of ?? way.recipe.id },
                              name: `${way.recipe.name}, with ${way.name}`,
                              said: `Put beside ${way.recipe.name}: its prices are still to be set`,
                            })
                          }
                        >
                          New pot
                        </button>
                      </span>
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      <Flips found={found} />
    </>
  );
}

/** When making and buying change places. */
function Flips({ found }: { found: Exchange }) {
  const currency = useCurrency();
  if (found.flips.length === 0) return null;
  return (
    <ul className="text-sm mt-3 list-disc pl-5" aria-label="When making stops to pay">
      {found.flips.map((flip) => {
        const parts = [
          flip.flip_price &&
            `${flip.item_name} cost less than ${money(perKilo(flip.flip_price), currency)} ${aKilo()}`,
          flip.flip_batch_l && `a batch gives more than ${litres(flip.flip_batch_l)}`,
          flip.flip_rate && `an hour costs less than ${money(flip.flip_rate, currency)}`,
        ].filter(Boolean);
        return (
          <li key={`${flip.recipe} ${flip.other}`}>
            {flip.name} beside {flip.other}:{" "}
            {parts.length > 0
              ? `making it pays while ${parts.join("; while ")} (each for itself, the rest as it is).`
              : "buying costs less, whatever the bones cost and however large the batch is."}
          </li>
        );
      })}
    </ul>
  );
}
