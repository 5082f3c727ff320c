// What is left over with a use: what a kilo of it costs, and who cooks with it.

import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, inWords, type Leftover, told } from "../../api/client";
import { yieldAddress } from "../../parts/addresses";
import { useCurrency } from "../../parts/Figure";
import { aKilo, mass, money, percent, perKilo } from "../../parts/format";
import { Table } from "../../parts/kit/Table";
import { METHOD_NAMES } from "../../parts/methods";
import { ToBook } from "./ToBook";

export function LeftoversRoom() {
  const found = useQuery({
    queryKey: ["leftovers"],
    queryFn: () => told<Leftover[]>(api.GET("/api/leftovers")),
  });
  const currency = useCurrency();
  if (found.isPending) return <p>Looking into the bins …</p>;
  if (found.isLoadingError) return <p role="alert">{inWords(found.error)}</p>;
  return (
    <>
      <ToBook />
      <h1 className="text-xl font-semibold">By-products</h1>
      <p className="mb-3">
        Each can be a line of another pot: type <q>2 kg leek tops</q> there. It costs that pot what it spares
        the one it came from, to the cent.
      </p>
      {found.data.length === 0 ? (
        <p className="sheet p-6 max-w-xl">
          Nothing that falls off has a use or a value yet. Say so with the item in Buy, at a take-out in Cook,
          or on a test sheet.
        </p>
      ) : (
        <Table
          caption="By-products, their value and their use"
          heads={[
            "By-product",
            "From",
            { text: "How much", num: true },
            "For",
            { text: `Worth ${aKilo()}`, num: true },
            { text: `Costs a pot ${aKilo()}`, num: true },
            "Cooked with in",
          ]}
        >
          {found.data.map((one) => (
            <tr key={`${one.item}/${one.recipe}/${one.preparation}/${one.name}`}>
              <th scope="row">{one.name}</th>
              <td>
                {one.recipe ? (
                  <Link className="link link-hover" to={`/cook/${one.recipe}`}>
                    {one.of}
                  </Link>
                ) : (
                  <Link
                    className="link link-hover"
                    to={yieldAddress({
                      item: one.item ?? "",
                      sort: "preparation",
                      of: one.preparation ?? "",
                    })}
                  >
                    {one.of}
                  </Link>
                )}
              </td>
              <td className="num">
                {one.share !== null ? `${percent(one.share)} of it` : `${mass(one.grams)} a batch`}
                {one.short && (
                  <span className="block text-sm font-semibold" title="One batch of each pot that gives it">
                    ⚠ more is used than the {mass(one.given)} there are
                  </span>
                )}
              </td>
              <td>{one.use ?? <span className="quiet">nothing yet</span>}</td>
              <td className="num money">{money(perKilo(one.value_per_kg), currency)}</td>
              <td className="num">
                <span className="money">{money(perKilo(one.per_kg), currency)}</span>{" "}
                <span className="quiet text-xs">{METHOD_NAMES[one.method]}</span>
              </td>
              <td>
                {one.used_in.map((use, at) => (
                  <span key={use.recipe}>
                    {at > 0 && ", "}
                    <Link className="link link-hover" to={`/cook/${use.recipe}`}>
                      {use.name}
                    </Link>{" "}
                    <span className="quiet">{mass(use.grams)}</span>
                  </span>
                ))}
              </td>
            </tr>
          ))}
        </Table>
      )}
    </>
  );
}
