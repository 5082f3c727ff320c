// Channels and terms: how the kitchen sells, what each way takes of a price, and its own numbers for each school.

import { useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { refreshAll } from "../../api/asked";
import { api, type Channel, inWords, type KitchenHead, type Settings, told } from "../../api/client";
import { useKitchen, useNames } from "../../api/kitchen";
import { idFor } from "../../parts/format";
import { useKeys } from "../../parts/keys";
import { Panel } from "../../parts/kit/Panel";
import { replacedAt, withoutPlace } from "../../parts/places";
import { QuantityInput } from "../../parts/QuantityInput";
import { SchoolTerms } from "../../parts/SchoolTerms";
import { Remove, SmallChoice, SmallField } from "../../parts/Small";
import { Stale } from "../../parts/Stale";
import { SCHOOLS } from "../../parts/schools";
import { useToast } from "../../parts/Toasts";
import { TypedInput } from "../../parts/TypedInput";
import { useEdited } from "../../parts/useEdited";
import { useSaving } from "../../parts/useSaving";

export function WaysRoom() {
  const kitchen = useKitchen();
  if (!kitchen.data) return <p>Opening the terms …</p>;
  return <Ways kitchen={kitchen.data} />;
}

const OVERHEADS = [
  ["", "not told"],
  ["per_attended_hour", "by the attended hour"],
  ["per_portion", "the same for each portion"],
  ["share_of_sales", "a share of sales"],
] as const;
type Laid = (typeof OVERHEADS)[number][0];

function Ways({ kitchen }: { kitchen: KitchenHead }) {
  const edit = useEdited<Settings>("price-ways", kitchen.settings);
  const { value: settings, base: was, changed } = edit;
  const set = (patch: Partial<Settings>) => edit.set({ ...settings, ...patch });
  const client = useQueryClient();
  const toast = useToast();
  const save = useSaving({
    mutationFn: () =>
      told(
        api.PUT("/api/kitchen", {
          body: { name: kitchen.name, currency: kitchen.currency, settings, was },
        }),
      ),
    onSuccess: async () => {
      await refreshAll(client);
      edit.takeTheirs();
      toast("Saved");
    },
  });
  useKeys({ "Ctrl+s": () => changed && save.mutate() });
  const overhead = settings.overhead ?? null;
  const rate = settings.overhead_rate_per_hour ?? null;
  const laid: Laid =
    rate !== null
      ? "per_attended_hour"
      : ((OVERHEADS.find(([key]) => key !== "" && overhead?.[key] != null)?.[0] ?? "") as Laid);
  const amount = rate ?? (laid === "" ? null : (overhead?.[laid] ?? null));
  const lay = (key: Laid, value: string | null) =>
    set({
      overhead_rate_per_hour: null,
      overhead:
        key === ""
          ? null
          : { per_attended_hour: null, per_portion: null, share_of_sales: null, [key]: value ?? "0" },
    });
  return (
    <>
      <div className="flex flex-wrap items-center gap-4 mb-3">
        <h1 className="text-xl font-semibold">Channels and terms</h1>
        <span className="ml-auto flex flex-wrap gap-2">
          <button
            type="button"
            className="btn btn-sm btn-primary"
            disabled={!changed || save.isPending}
            onClick={() => save.mutate()}
          >
            Save <kbd className="text-base-content">Ctrl S</kbd>
          </button>
          <button type="button" className="btn btn-sm" disabled={!changed} onClick={edit.takeTheirs}>
            As it was
          </button>
          <Link className="btn btn-sm" to="/price">
            Back to the prices
          </Link>
        </span>
      </div>
      {save.isError && (
        <p role="alert" className="sheet p-3 mb-3 text-error">
          {inWords(save.error)}
        </p>
      )}
      {edit.stale && <Stale what="the kitchen's settings" take={edit.takeTheirs} />}
      <Terms settings={settings} set={set} />
      <Panel label="What the house costs" title="What the house costs" className="mb-3">
        <div className="flex flex-wrap gap-x-6 gap-y-1">
          <SmallChoice<Laid>
            label="overhead"
            value={laid}
            choices={OVERHEADS}
            set={(key) => lay(key, amount)}
          />
          {laid !== "" && (
            <SmallField
              label={laid === "share_of_sales" ? "share" : "of"}
              aria-label="How much overhead"
              value={amount}
              set={(value) => lay(laid, value)}
            />
          )}
          <SmallField
            label="a week costs, before anything is sold"
            value={settings.fixed_cost_per_week ?? null}
            set={(fixed_cost_per_week) => set({ fixed_cost_per_week })}
          />
          <SmallField
            label="open days a week"
            width="w-12"
            value={settings.open_days_per_week}
            set={(days) => set({ open_days_per_week: days ?? "5" })}
          />
        </div>
        <p className="text-sm quiet mt-1">
          Labour rates are with on-costs. Rent, cleaning and the like belong to the week or to overhead.
        </p>
      </Panel>
      <Channels settings={settings} set={set} />
    </>
  );
}

interface Part {
  settings: Settings;
  set: (patch: Partial<Settings>) => void;
}

/** The kitchen's own numbers for each school. */
function Terms({ settings, set }: Part) {
  return (
    <Panel label="Terms of each school" title="Terms of each school" className="mb-3">
      <ul className="flex flex-col gap-1">
        <li className="flex flex-wrap gap-x-3">
          <span className="w-32 font-semibold">{SCHOOLS.food_cost_share.name}</span>
          <SmallField
            label="target"
            aria-label="Target food-cost share"
            value={settings.target_food_cost ?? null}
            set={(target_food_cost) => set({ target_food_cost })}
          />
        </li>
        <SchoolTerms pricings={settings.pricings} set={(pricings) => set({ pricings })} />
      </ul>
    </Panel>
  );
}

const ENDINGS = [
  ["kitchen", "as the kitchen's"],
  ["none", "as they come"],
  ["step", "up to a multiple of"],
  ["cents", "up to an ending in"],
] as const;
type Ending = (typeof ENDINGS)[number][0];

function endingOf(channel: Channel): Ending {
  if (channel.price_ending === "kitchen") return "kitchen";
  if (channel.price_ending === null) return "none";
  return channel.price_ending.step != null ? "step" : "cents";
}

function Channels({ settings, set }: Part) {
  const change = (at: number, patch: Partial<Channel>) =>
    set({ channels: replacedAt(settings.channels, at, (one) => ({ ...one, ...patch })) });
  const add = () => {
    const id = idFor("channel", (taken) => settings.channels.some((one) => one.id === taken));
    const fresh: Channel = {
      id,
      name: "New channel",
      tax_rate: null,
      commission: "0",
      commission_of: null,
      packaging: [],
      price_ending: "kitchen",
      subsidy: "0",
      deposit: null,
    };
    set({ channels: [...settings.channels, fresh] });
  };
  return (
    <Panel
      label="Channels"
      title="Where it is sold, beside here"
      beside={
        <button type="button" className="btn btn-sm" onClick={add}>
          Another channel
        </button>
      }
    >
      {settings.channels.length === 0 && (
        <p className="mb-2">
          Taken away, delivered, to staff: each has its own tax, commission, packaging and price. The
          kitchen's own needs none of this.
        </p>
      )}
      {settings.channels.map((channel, at) => (
        <ChannelFields
          key={channel.id}
          channel={channel}
          set={(patch) => change(at, patch)}
          remove={() => set({ channels: withoutPlace(settings.channels, at) })}
        />
      ))}
    </Panel>
  );
}

interface ChannelProps {
  channel: Channel;
  set: (patch: Partial<Channel>) => void;
  remove: () => void;
}

function ChannelFields({ channel, set, remove }: ChannelProps) {
  const ending = endingOf(channel);
  const names = useNames().data ?? [];
  const { price_ending: own } = channel;
  return (
    <fieldset className="border-t border-base-300 py-2" aria-label={`Channel ${channel.name}`}>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <input
          className="cell-input font-semibold w-40"
          aria-label="Name of the channel"
          value={channel.name}
          onChange={(event) => set({ name: event.target.value })}
        />
        <SmallField
          label="tax"
          hint="kitchen's"
          value={channel.tax_rate ?? null}
          set={(tax_rate) => set({ tax_rate })}
        />
        <SmallField
          label="commission"
          value={channel.commission === "0" ? null : channel.commission}
          set={(commission) => set({ commission: commission ?? "0" })}
        />
        {channel.commission !== "0" && (
          <SmallChoice<"" | "net" | "gross">
            label="of the"
            value={channel.commission_of ?? ""}
            choices={[
              ["", "? say of which"],
              ["gross", "price on the card"],
              ["net", "price without tax"],
            ]}
            set={(of) => set({ commission_of: of === "" ? null : of })}
          />
        )}
        <SmallChoice<Ending>
          label="prices go"
          value={ending}
          choices={ENDINGS}
          set={(kind) =>
            set({
              price_ending:
                kind === "kitchen"
                  ? "kitchen"
                  : kind === "none"
                    ? null
                    : kind === "step"
                      ? { step: "0.10", cents: null }
                      : { step: null, cents: ["0.90"] },
            })
          }
        />
        {ending === "step" && own !== null && own !== "kitchen" && (
          <SmallField
            label=""
            aria-label="A multiple of"
            value={own.step ?? null}
            set={(step) => set({ price_ending: { step: step ?? "0.10", cents: null } })}
          />
        )}
        {ending === "cents" && own !== null && own !== "kitchen" && (
          <SmallField
            label=""
            aria-label="Ending in"
            width="w-28"
            value={(own.cents ?? []).join(" ")}
            set={(text) =>
              set({ price_ending: { step: null, cents: (text ?? "").split(/[\s;]+/).filter(Boolean) } })
            }
          />
        )}
        <SmallField
          label="the house adds"
          value={channel.subsidy === "0" ? null : channel.subsidy}
          set={(subsidy) => set({ subsidy: subsidy ?? "0" })}
        />
        <SmallField
          label="deposit for a cup"
          value={channel.deposit ?? null}
          set={(deposit) => set({ deposit })}
        />
        <Remove label={`Remove channel ${channel.name}`} remove={remove} look="btn-xs ml-auto" />
      </div>
      <div className="flex flex-wrap items-center gap-x-4 text-sm mt-1">
        <span className="quiet">packed in</span>
        {channel.packaging.map((line, place) => {
          const name = names.find((one) => one.id === line.item)?.name ?? line.item ?? "";
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: lines have no lasting name
            <span key={place} className="flex items-center gap-1">
              <QuantityInput
                className="cell-input w-16 text-right"
                aria-label={`Quantity of ${name}`}
                value={line.quantity}
                set={(quantity) =>
                  set({ packaging: replacedAt(channel.packaging, place, (one) => ({ ...one, quantity })) })
                }
              />
              {name}
              <Remove
                label={`Remove ${name}`}
                remove={() => set({ packaging: withoutPlace(channel.packaging, place) })}
              />
            </span>
          );
        })}
        <TypedInput
          label={`packaging of ${channel.name}`}
          hint="1 soup cup"
          add={(line) => set({ packaging: [...channel.packaging, line] })}
        />
      </div>
    </fieldset>
  );
}
