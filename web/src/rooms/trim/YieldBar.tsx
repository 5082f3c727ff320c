// A yield drawn to scale: what remains solid, what is lost hatched, the band as a bracket, own tests as a dot.

interface Props {
  value: string;
  low: string | null;
  high: string | null;
  own?: string | null;
  /** What the whole width stands for; more than all where something takes up water. */
  whole?: number;
}

export function YieldBar({ value, low, high, own = null, whole }: Props) {
  const all = whole ?? Math.max(1, Number(high ?? 0), Number(value));
  const at = (share: string | number) => `${Math.min(100, (100 * Number(share)) / all)}%`;
  return (
    <div className="relative w-full h-5" aria-hidden="true">
      <div className="bar absolute inset-x-0 top-1">
        <div style={{ width: at(value), background: "var(--color-primary)" }} />
        <div className="lost" style={{ width: at(Math.max(0, (all === 1 ? 1 : 0) - Number(value))) }} />
      </div>
      {low !== null && high !== null && (
        <div
          className="absolute top-0 h-5 border-x-2 border-secondary"
          style={{ left: at(low), width: `calc(${at(high)} - ${at(low)})` }}
        >
          <div className="absolute top-2 inset-x-0 border-t-2 border-secondary" />
        </div>
      )}
      {own !== null && (
        <div
          className="absolute top-1 size-3 -ml-1.5 rounded-full bg-success border-2 border-base-100"
          style={{ left: at(own) }}
        />
      )}
    </div>
  );
}
