import type { KeyboardEvent, MouseEvent } from "react";
import { useRef, useState } from "react";

import type { ChartView } from "../api/client";
import { AgreementMark } from "../margin/AgreementMark";

type Point = ChartView["series"][number]["points"][number];

/** A chart as the server drew it. Arrows go from point to point, and each says what it prints. */
export function Chart({ chart }: { chart: ChartView }) {
  return (
    <>
      <h2 className="flex items-baseline justify-between gap-2 font-semibold">
        {chart.label}
        <AgreementMark agrees={chart.agrees} />
      </h2>
      {chart.caption ? <p className="text-[12.5px] text-soft">{chart.caption}</p> : null}
      {chart.fault ? <p className="py-4 text-soft">{chart.fault}</p> : <Drawn chart={chart} />}
      {chart.notes.map((note) => (
        <p key={note} className="text-[12px] text-soft">
          {note}
        </p>
      ))}
      {chart.fault ? null : <AsTable chart={chart} />}
    </>
  );
}

function Drawn({ chart }: { chart: ChartView }) {
  const [at, setAt] = useState<[number, number] | null>(null);
  const [hovered, setHovered] = useState<Point | null>(null);
  const [ring, setRing] = useState<Ring | null>(null);
  const box = useRef<HTMLDivElement>(null);
  const selected = at ? chart.series[at[0]]?.points[at[1]] : undefined;
  const said = hovered ?? selected;
  function onKeyDown(event: KeyboardEvent) {
    const steps: Record<string, [number, number]> = {
      ArrowRight: [0, 1],
      ArrowLeft: [0, -1],
      ArrowDown: [1, 0],
      ArrowUp: [-1, 0],
    };
    const step = steps[event.key];
    if (!step) return;
    event.preventDefault();
    event.stopPropagation();
    setHovered(null);
    const [series, place] = at ?? [0, -step[1]];
    const next: [number, number] = [
      Math.min(Math.max(series + step[0], 0), chart.series.length - 1),
      Math.min(Math.max(place + step[1], 0), chart.heads.length - 1),
    ];
    setAt(next);
    setRing(placeOf(box.current, chart.series[next[0]]?.points[next[1]]?.id ?? ""));
  }
  function onMouseMove(event: MouseEvent) {
    const id = event.target instanceof Element ? event.target.closest("[id*='-point-']")?.id : undefined;
    setHovered(chart.series.flatMap((each) => each.points).find((each) => each.id === id) ?? null);
  }
  return (
    <>
      {chart.keys.length > 0 ? (
        <p className="flex flex-wrap gap-x-4 text-[12px] text-soft">
          {chart.series.map((series, place) => (
            <span key={series.name} className="inline-flex items-center gap-1.5">
              {/* The key is drawn by the server, as the chart is; nothing in it was typed by anybody. */}
              <span className="chart-key" dangerouslySetInnerHTML={{ __html: chart.keys[place] ?? "" }} />
              {series.name}
            </span>
          ))}
        </p>
      ) : null}
      {/* It takes the focus, so that arrows can go from point to point. */}
      {/* eslint-disable-next-line jsx-a11y/no-noninteractive-element-interactions */}
      <div
        ref={box}
        role="group"
        aria-label={`${chart.label}. Use the arrow keys to go from point to point.`}
        // eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex
        tabIndex={0}
        className="chart relative"
        onKeyDown={onKeyDown}
        onMouseMove={onMouseMove}
        onMouseLeave={() => setHovered(null)}
        onBlur={() => setAt(null)}
      >
        <div aria-hidden="true" dangerouslySetInnerHTML={{ __html: chart.svg }} />
        {ring && selected && !hovered ? (
          <span
            aria-hidden="true"
            className="pointer-events-none absolute outline-2 outline-offset-2 outline-teal"
            style={ring}
          />
        ) : null}
        <p
          role="status"
          className={said ? "absolute top-0 right-0 border border-hairline bg-paper px-2 py-0.5" : "sr-only"}
        >
          {said ? (
            <>
              <span className="text-soft">{said.name}</span>{" "}
              <bdi className="font-serif font-semibold">{said.text}</bdi>
            </>
          ) : null}
        </p>
      </div>
    </>
  );
}

interface Ring {
  left: number;
  top: number;
  width: number;
  height: number;
}

/** Where a point of the drawing lies in its box. */
function placeOf(box: HTMLElement | null, id: string): Ring | null {
  const point = document.getElementById(id)?.getBoundingClientRect();
  const around = box?.getBoundingClientRect();
  if (!point || !around) return null;
  const { left, top, width, height } = point;
  return { left: left - around.left, top: top - around.top, width, height };
}

function AsTable({ chart }: { chart: ChartView }) {
  return (
    <details className="text-[12.5px]">
      <summary className="cursor-pointer text-soft">As a table</summary>
      <div className="overflow-x-auto">
        <table className="font-serif">
          <thead>
            <tr>
              <td />
              {chart.series.map((series) => (
                <th key={series.name} scope="col" className="px-2 text-right font-normal text-soft">
                  {series.name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {chart.heads.map((head, place) => (
              <tr key={place}>
                <th scope="row" className="pr-3 text-left font-normal">
                  {head}
                </th>
                {chart.series.map((series) => (
                  <td key={series.name} className="px-2 text-right">
                    <bdi>{series.points[place]?.text}</bdi>
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </details>
  );
}
