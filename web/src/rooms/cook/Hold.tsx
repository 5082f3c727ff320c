// A soup that stands hot: what it loses, what is then left of it, and what to top up with.

import type { SheetServing } from "../../api/client";
import { mass, percent, thickness, trimmed } from "../../parts/format";

export function Hold({ hold }: { hold: NonNullable<SheetServing["hold"]> }) {
  if (hold.lack !== null) return <p className="text-sm quiet">standing hot: {hold.lack}</p>;
  return (
    <p className="text-sm" data-testid="hold">
      <span className="quiet">standing hot it loses</span> {mass(hold.lost_g)}{" "}
      <span className="quiet">
        ({mass(hold.lost_low_g)} to {mass(hold.lost_high_g)}, an estimate), and leaves
      </span>{" "}
      {hold.portions_end !== null && `${Math.floor(Number(hold.portions_end))} portions`}
      {hold.salt_share_end !== null && Number(hold.salt_share_end) > 0 && (
        <>
          {" "}
          <span className="quiet">at</span> {percent(hold.salt_share_end, 2)}{" "}
          <span className="quiet">salt</span>
        </>
      )}
      {Number(hold.thickness_end_g_per_l ?? 0) > 0 && (
        <>
          <span className="quiet">, </span>
          {thickness(hold.thickness_end_g_per_l, hold.thickness_at_least)}{" "}
          <span className="quiet">thick</span>
        </>
      )}
      <span className="quiet">. Top it up with hot water as it goes, {mass(hold.lost_g)} in all.</span>
      {hold.too_many && (
        <strong> That takes {trimmed(hold.containers ?? "", 0)} containers: there are fewer.</strong>
      )}
      <span className="quiet text-xs block">
        No clearance: how hot and how long, your local food code says.
      </span>
    </p>
  );
}
