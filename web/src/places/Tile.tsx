import type { PrintedView, TileView } from "../api/client";
import { AgreementMark } from "../margin/AgreementMark";

/** A figure on its own, as its readers will see it, with whether it agrees beside its name. */
export function Tile({ tile }: { tile: TileView }) {
  const { shows, compare, target } = tile;
  return (
    <>
      <h2 className="flex items-baseline justify-between gap-2 text-[12.5px] text-soft">
        {tile.label}
        <AgreementMark agrees={shows.agrees} />
      </h2>
      <p className={`font-serif text-[26px] leading-9 font-semibold wrap-anywhere ${toned(shows)}`}>
        <Printed printed={shows} />
        {tile.unit ? (
          <span className="block text-[13px] leading-4 font-normal text-soft">{tile.unit}</span>
        ) : null}
      </p>
      {shows.too_wide ? (
        <p className="text-[12px] text-rust">
          Wider than its rule allows: a larger scale or fewer decimals fit.
        </p>
      ) : null}
      {compare ? (
        <p className={`flex justify-between gap-2 text-[12.5px] ${toned(compare)}`}>
          <span>
            <Printed printed={compare} /> {tile.against}
          </span>
          {compare.agrees.standing === "agrees" ? null : <AgreementMark agrees={compare.agrees} />}
        </p>
      ) : null}
      {target ? (
        <>
          <Reached reached={target.reached} />
          <p className="text-[12px] text-soft">{target.says}</p>
        </>
      ) : null}
      {tile.trail.length > 0 ? <Trail runs={tile.trail} /> : null}
    </>
  );
}

function toned(printed: PrintedView): string {
  return printed.tone === "rust" ? "text-rust" : "";
}

function Printed({ printed }: { printed: PrintedView }) {
  return (
    <bdi>
      {printed.mark ? `${printed.mark}\u00a0` : ""}
      {printed.text || "…"}
    </bdi>
  );
}

/** How much of a target is reached, in thousandths of it; a stroke stands where the target is. */
function Reached({ reached }: { reached: number }) {
  const scale = Math.max(reached, 1000);
  return (
    <svg
      viewBox={`0 0 ${scale} 80`}
      preserveAspectRatio="none"
      className="mt-1 h-3 w-full max-w-52"
      aria-hidden="true"
    >
      <path d={`M0 20h${scale}v40h-${scale}z`} className="fill-desk" />
      <path d={`M0 20h${reached}v40h-${reached}z`} className="fill-teal" />
      <path d={`M${Math.min(1000, scale - 10)} 0h10v80h-10z`} className="fill-ink" />
    </svg>
  );
}

/** Past periods as a small line; a missing one is a gap in it. */
function Trail({ runs }: { runs: number[][][] }) {
  const last = runs.at(-1)?.at(-1);
  return (
    <svg viewBox="-4 -4 208 32" className="mt-1 w-full max-w-52" aria-hidden="true">
      {runs.map((run, place) => (
        <polyline
          key={place}
          points={run.map((point) => point.join(",")).join(" ")}
          className="fill-none stroke-teal"
          strokeWidth={1.6}
          strokeLinejoin="round"
        />
      ))}
      {last ? <circle cx={last[0]} cy={last[1]} r={2.6} className="fill-teal" /> : null}
    </svg>
  );
}
