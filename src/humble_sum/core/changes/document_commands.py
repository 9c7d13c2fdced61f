"""The changes to what is said of numbers in documents made elsewhere."""

from __future__ import annotations

from typing import Literal

from humble_sum.core.changes.command import OnPack
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.statements.document_answers import Around, DocumentAnswer, SaidOfNumber, with_answer
from humble_sum.core.statements.names import shortened
from humble_sum.core.statements.pack import Pack

SAID = {"other": "is none of ours", "figure": "is another figure", "stays": "stays as it is"}
MOST_SAID = 40


class AnswerNumber(SaidOfNumber, OnPack):
    """Say of a number in a document that it is none of the pack's figures, that it is another figure, or
    why it stays as it is; for what stands around it, or for all alike."""

    kind: Literal["answer_number"]

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        if self.answer == "stays" and not self.reason.strip():
            raise InputError("bad-request", Fault("reason", "It stays for a reason.", "Say why."))
        if self.answer == "figure":
            figure = self.figure or ("", "", "")
            statement = pack.statement(figure[0])
            line = statement.line(figure[1]) if statement else None
            if statement is None or line is None or not statement.column(figure[2]):
                fault = Fault("figure", "There is no such figure.", "Choose another.")
                raise InputError("no-such-figure", fault)
            if line.kind == "heading":
                fault = Fault("figure", f"{line.label} is a heading, and has no figures.", "Choose another.")
                raise InputError("no-such-figure", fault)
        said = self.model_dump(exclude={"kind"})
        answers = with_answer(pack.document_answers, DocumentAnswer.model_validate(said))
        what = shortened(self.number or self.around, MOST_SAID)
        where = f" in {self.document}" if self.document and not self.alike else ""
        every = "Every " if self.alike else ""
        return pack.model_copy(
            update={"document_answers": answers}
        ), f"{every}{what}{where} {SAID[self.answer]}"


class ForgetNumber(OnPack):
    """Take back what was said of a number in a document."""

    kind: Literal["forget_number"]
    around: Around
    alike: bool = False

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        left = tuple(each for each in pack.document_answers if each.key != (self.around, self.alike))
        if len(left) == len(pack.document_answers):
            raise InputError("no-such-answer", Fault("around", "Nothing was said of such a number."))
        return pack.model_copy(update={"document_answers": left}), "What was said of a number is taken back"
