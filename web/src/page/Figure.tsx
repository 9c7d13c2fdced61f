import type { CSSProperties } from "react";
import { memo } from "react";

import type { CheckView, FigureCell } from "../api/client";
import type { Place } from "../api/queries";
import { LEVELS } from "../words/levels";
import type { Lens } from "../pack/address";
import { figureId } from "../pack/focus";
import { PointMark } from "./PointMark";

interface Props {
  line: string;
  at: number;
  figure: FigureCell;
  lens: Lens;
  checks: CheckView[];
  was: string | null;
  /** What the points on it say, and who else has it in hand; empty where there are none. */
  point: string;
  hand: string;
  /** Whether it is in hand, or a part of the total in hand. */
  mark: "selected" | "part" | "";
  onSelect: (place: Place) => void;
}

/** One figure of the page, with the pencil marks of the lens. */
export const Figure = memo(function Figure(props: Props) {
  const { line, at, figure, lens, checks, was, point, hand, mark, onSelect } = props;
  const selected = mark === "selected";
  const place = { line, column: figure.column };
  const marked = lens !== "print";
  const classes = [
    selected ? "selected" : "",
    mark === "part" && marked ? "part" : "",
    figure.held && marked ? "held" : "",
    figure.tone === "rust" ? "rust" : "",
    figure.too_wide ? "wide" : "",
    hand ? "in-hand" : "",
  ];
  const hung = figure.hang && lens !== "exact";
  const drift = lens === "drift" && figure.drift !== null ? `${figure.drift} units from exact` : undefined;
  return (
    <td
      id={figureId(place)}
      role="gridcell"
      aria-colindex={at}
      tabIndex={selected ? 0 : -1}
      aria-selected={selected}
      className={classes.join(" ").trim()}
      onFocus={() => {
        if (!selected) onSelect(place);
      }}
      onClick={(event) => event.currentTarget.focus()}
      title={hand ? `${hand} has this figure in hand` : undefined}
    >
      {marked ? <PointMark says={point} /> : null}
      <span
        className={`figure ${hung ? "" : "unhung"} ${drift ? "drifting" : ""}`}
        title={drift}
        style={drift ? bar(figure.drift_share) : undefined}
      >
        {lens === "drift" ? checks.map((check) => <Flag key={check.id} check={check} />) : null}
        {was === null ? null : (
          <del className="was">
            <span className="sr-only">before </span>
            {was || "blank"}
            <span className="sr-only">, after </span>
          </del>
        )}
        {lens === "exact" ? (
          <>
            <span className="digits screen-only font-sans text-[13px]">
              <Marks figure={figure} />
              <bdi>{figure.exact}</bdi>
            </span>
            <span className="print-only">
              <Printed figure={figure} marked={false} />
            </span>
          </>
        ) : (
          <Printed figure={figure} marked={marked} />
        )}
        {lens === "origin" ? (
          <span className={`origin ${originMark(figure.origin)}`} title={figure.origin_rule}>
            <span className="sr-only"> set by {figure.origin_rule}</span>
          </span>
        ) : null}
      </span>
    </td>
  );
}, sameFigure);

/** A figure is drawn again only when it says something else. */
function sameFigure(a: Props, b: Props): boolean {
  const said = a.point === b.point && a.hand === b.hand;
  const still = said && a.was === b.was && a.mark === b.mark && a.lens === b.lens && a.line === b.line;
  return still && a.onSelect === b.onSelect && alike(a.figure, b.figure) && sameChecks(a.checks, b.checks);
}

function sameChecks(a: CheckView[], b: CheckView[]): boolean {
  return (
    a.length === b.length &&
    a.every((check, place) => alike({ ...check, elsewhere: 0 }, { ...b[place], elsewhere: 0 }))
  );
}

/** Whether two flat objects say the same. */
function alike(a: object, b: object): boolean {
  const others = new Map(Object.entries(b));
  return Object.entries(a).every(([name, value]) => others.get(name) === value);
}

function originMark(level: FigureCell["origin"]): string {
  return LEVELS.find((each) => each.level === level)?.mark ?? "";
}

/** The figure as readers see it. Most have no pencil marks, and get no more elements than they need. */
function Printed({ figure, marked }: { figure: FigureCell; marked: boolean }) {
  const lead = figure.hang ? figure.text.slice(0, -figure.hang.length) : figure.text;
  const text = (
    <bdi>
      {lead}
      {figure.hang ? <span className="hang">{figure.hang}</span> : null}
    </bdi>
  );
  const pencilled = marked && (figure.nudged || figure.held || figure.too_wide);
  if (!pencilled && !figure.mark && figure.tone === "plain") return text;
  return (
    <span className="digits">
      {marked ? <Marks figure={figure} /> : null}
      {figure.mark ? <span className="band">{figure.mark}</span> : null}
      {text}
    </span>
  );
}

const WAYS = {
  down: { said: "gap down ", sign: "" },
  across: { said: "gap across ", sign: "→ " },
  tie: { said: "tied figures differ ", sign: "⇄ " },
};

function Flag({ check }: { check: CheckView }) {
  if (check.status === "break") {
    return (
      <span className="flag break" title={check.says || check.name}>
        {check.mark || "source break"}
      </span>
    );
  }
  return (
    <span className="flag" title={check.says || check.name}>
      <span className="sr-only">{WAYS[check.way].said}</span>
      <span aria-hidden="true">{WAYS[check.way].sign}</span>
      {check.mark}
    </span>
  );
}

function Marks({ figure }: { figure: FigureCell }) {
  return (
    <>
      {figure.nudged ? (
        <span className="caret" title={figure.nudged === "up" ? "nudged up" : "nudged down"}>
          <span aria-hidden="true">{figure.nudged === "up" ? "▴" : "▾"}</span>
          <span className="sr-only">{figure.nudged === "up" ? "nudged up " : "nudged down "}</span>
        </span>
      ) : null}
      {figure.held ? <span className="sr-only">held </span> : null}
      {figure.too_wide ? (
        <span className="sr-only">wider than its rule allows; print fewer decimals or a larger scale </span>
      ) : null}
    </>
  );
}

const HALF = 17; // pixels for one whole unit of drift

/** The bar of a drift, which the style sheet draws under the figure: left of the middle it prints too
    little, right too much. */
function bar(share: number): CSSProperties {
  const width = share === 0 ? 0 : Math.max(1, (Math.abs(share) / 1000) * HALF);
  return { "--long": `${width}px`, "--from": `${share < 0 ? HALF : HALF - width}px` } as CSSProperties;
}
