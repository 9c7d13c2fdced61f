import type { Change, RuleView } from "../api/client";
import { usePack } from "../pack/OpenPack";
import { Specimens } from "../margin/Specimens";
import { setSpecimens } from "../pack/formCommands";

interface Props {
  rule: RuleView;
  place: number;
  count: number;
  onOwn: (change: Change) => void;
}

/** The rule in hand: where it stands, how many figures each clause decides, and its specimens. */
export function SelectedRule({ rule, place, count, onOwn }: Props) {
  const { statement } = usePack();
  const words = rule.sentence.filter((part) => typeof part !== "string");
  return (
    <>
      <h2 className="flex justify-between font-semibold">
        {rule.name}
        <span className="font-normal text-soft">
          {place + 1} of {count}
        </span>
      </h2>
      <p className="text-soft">
        Reaches {rule.reaches === 1 ? "1 figure" : `${rule.reaches} figures`} {rule.reach_said}.
      </p>
      {words.length > 0 ? (
        <section aria-labelledby="decides">
          <h3 id="decides" className="mb-1 text-[12px] font-semibold text-soft">
            Figures each clause decides
          </h3>
          <dl>
            {words.map(({ clause, name, label }) => (
              <div key={clause} className="flex justify-between gap-3 border-b border-hairline py-0.5">
                <dt>
                  <span className="text-soft">{name}</span> {label}
                </dt>
                <dd className={rule.decides[clause] ? "" : "text-rust"}>
                  {rule.decides[clause] || (rule.off ? "off" : "none")}
                </dd>
              </div>
            ))}
          </dl>
        </section>
      ) : null}
      <Specimens specimens={rule.specimens} onOwn={(amounts) => onOwn(setSpecimens(statement, amounts))} />
    </>
  );
}
