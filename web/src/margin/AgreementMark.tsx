import type { AgreementView } from "../api/client";

/** Whether a figure agrees with its page, as a word and a mark. */
export function AgreementMark({ agrees }: { agrees: AgreementView }) {
  if (agrees.standing === "agrees") return <span className="text-[12px] text-moss">agrees</span>;
  const tone = agrees.standing === "disagrees" ? "text-rust" : "text-ochre";
  return <span className={`text-[12px] font-semibold ${tone}`}>{agrees.off || "disagrees"}</span>;
}
