// Liquid by eye, under its line: what covers the solids, and what a little less or a little more of it gives.

import type { PreviewReply } from "../../api/client";
import { useCurrency } from "../../parts/Figure";
import { money, NOT_KNOWN, volume } from "../../parts/format";

type Splash = PreviewReply["splashes"][number];

interface Props {
  splash: Splash;
  name: string;
  /** The quantity of the line now. */
  now: string;
  pour: (quantity: string) => void;
  serving: string | undefined;
}

export function SplashRow({ splash, name, now, pour, serving }: Props) {
  const currency = useCurrency();
  return (
    <tr data-splash={splash.line}>
      <td colSpan={5} className="pl-8 pb-2 text-sm">
        <p>
          {splash.by_eye === "thin" && <span className="quiet">poured until it is thin enough. </span>}
          {splash.cover_ml !== null && (
            <>
              <span className="quiet">to cover what lies there: about</span>{" "}
              <button
                type="button"
                className="link"
                title="Take that for the line"
                onClick={() => splash.pour && pour(splash.pour)}
              >
                {volume(splash.cover_ml)}
              </button>{" "}
              <span className="quiet">
                ({volume(splash.low_ml)} to {volume(splash.high_ml)}). Pour, look, and correct it.
              </span>
            </>
          )}
          {splash.lack && <span className="quiet">{splash.lack}</span>}
        </p>
        {serving && (
          <ul
            className="flex flex-wrap gap-x-5 gap-y-1 mt-1"
            aria-label={`What the last splash of ${name} does`}
          >
            <li className="quiet max-md:hidden">
              poured
              <br />
              batch, portions
              <br />a {serving} costs
            </li>
            {splash.steps.map((step) => (
              <li key={step.quantity} className="num whitespace-nowrap">
                {step.quantity === now ? (
                  <strong>{step.quantity}</strong>
                ) : (
                  <button type="button" className="link" onClick={() => pour(step.quantity)}>
                    {step.quantity}
                  </button>
                )}
                <br />
                {volume(step.batch_ml)},{" "}
                {step.portions === null ? NOT_KNOWN : Math.floor(Number(step.portions))}
                <br />
                <span className="money">{money(step.food_cost, currency)}</span>
              </li>
            ))}
          </ul>
        )}
      </td>
    </tr>
  );
}
