"""Every kind of refusal that the API can answer with: its slug, status, title, and what to do.

`docs/problems.md` is written from it, and a test holds every slug that is raised against it.
"""

from __future__ import annotations

from typing import NamedTuple

from humble_sum.records.faults import BUSY, DISK_FULL, NO_RECORDS

FAULT_OF_OURS = "fault-of-ours"
BAD_REQUEST = "bad-request"
TOO_LARGE = "too-large"
NO_TOKEN, ONLY_READS, ONLY_REVIEWS = "no-token", "only-reads", "only-reviews"
NOT_YOURS = "not-yours"
TOO_SLOW, TOO_BUSY, STOPPING = "too-slow", "too-busy", "stopping"


class ProblemKind(NamedTuple):
    """A kind of problem: its HTTP status, its title, and what whoever meets it can do."""

    status: int
    title: str
    remedy: str


PROBLEMS: dict[str, ProblemKind] = {
    # What was asked for is not there.
    "no-such-change": ProblemKind(
        404, "No such change", "Take its number from the history; undone ones are not in force."
    ),
    "no-such-column": ProblemKind(404, "No such column", "Take its id from the statement's page."),
    "no-such-dashboard": ProblemKind(404, "No such dashboard", "Take its id from the pack."),
    "no-such-edition": ProblemKind(404, "No such edition", "Take its id from the pack."),
    "no-reader": ProblemKind(
        501, "No reader on this machine", "Install what is named, or save the figures in another format."
    ),
    "no-pdf": ProblemKind(
        501, "No PDF on this machine", "Install what is named, or take the web page and print it."
    ),
    "no-such-figure": ProblemKind(
        404, "No such figure", "Take its line and column from the statement's page."
    ),
    "no-such-format": ProblemKind(404, "No such format", "Use one of those named."),
    "no-such-intake": ProblemKind(
        404, "No such intake", "Take the sources in again: an intake is kept for a while only."
    ),
    "no-such-issue": ProblemKind(404, "No such issue", "Take its number from those issued before."),
    "no-such-item": ProblemKind(404, "No such item", "Take its id from the dashboard."),
    "no-such-line": ProblemKind(404, "No such line", "Take its id from the statement's page."),
    "no-such-operation": ProblemKind(
        404, "No such operation", "Take the address from the OpenAPI file at /api/openapi.json."
    ),
    "no-such-pack": ProblemKind(404, "No such pack", "Take its id from the list of packs."),
    "no-such-answer": ProblemKind(404, "Nothing was said of it", "Look at the document again."),
    "no-database": ProblemKind(404, "No such database", "Take its name from those allowed."),
    "no-such-document": ProblemKind(404, "No such document", "Take its number from the pack's documents."),
    "no-such-point": ProblemKind(404, "No such point", "Take its id from the pack's points."),
    "no-such-signature": ProblemKind(404, "No such signature", "Take it from the pack's signatures."),
    "no-such-subject": ProblemKind(
        404, "A point is on something that is not there", "Name what is in the pack."
    ),
    "no-such-relation": ProblemKind(
        404, "No such relation", "Take its id from the checks of the statement's page."
    ),
    "no-such-rule": ProblemKind(404, "No such rule", "Take its id from the rulebook."),
    "no-such-sample": ProblemKind(404, "No such file of the demo", "Take its name from the list of them."),
    "no-such-search": ProblemKind(404, "The search is over", "Plan again; a plan that was found is kept."),
    "no-such-source": ProblemKind(404, "No such source", "Take its name from what was taken in."),
    "no-such-statement": ProblemKind(404, "No such statement", "Take its id from the pack."),
    "no-such-style": ProblemKind(404, "No such style", "Use one of those named."),
    "no-such-table": ProblemKind(404, "No such table", "Take its number from the intake."),
    "no-such-trial": ProblemKind(404, "The trial is over", "Try the change again."),
    "other-method": ProblemKind(405, "The method is not allowed", "Use one that the Allow header names."),
    "other-site": ProblemKind(
        403, "The request came from another site", "Do it on the page of Humble Sum itself."
    ),
    "other-host": ProblemKind(400, "This is no name of the server", "Ask for it by its own name."),
    "other-content-type": ProblemKind(415, "The content type is not supported", "Send it as the one named."),
    NO_TOKEN: ProblemKind(
        401, "A token is needed", "Open the link that the program printed when it started."
    ),
    ONLY_READS: ProblemKind(403, "This token only reads", "Ask for one that edits."),
    NOT_YOURS: ProblemKind(403, "Another's signature", "Ask whose it is to take it back."),
    ONLY_REVIEWS: ProblemKind(403, "This token only reviews", "Ask for one that edits."),
    # It cannot be done as the pack now stands.
    "cannot-foot": ProblemKind(
        409, "The page cannot foot with these holds", "Release the holds named, or print with more decimals."
    ),
    "edition-in-use": ProblemKind(
        409, "A dashboard shows this edition", "Give the dashboard another edition, or take it out."
    ),
    "in-use": ProblemKind(409, "The pack is in use", "Take it out first, which can be undone."),
    "no-such-way": ProblemKind(
        409, "No such way", "Ask again for the ways to close it: the pack has changed."
    ),
    "open-checks": ProblemKind(409, "Checks are open", "Settle them, or give a reason for each."),
    "issue-taken": ProblemKind(409, "The number is taken", "Look at that issue, and issue this again."),
    "nothing-to-hold": ProblemKind(409, "There is no figure to hold", "Hold a figure that has an amount."),
    "nothing-to-redo": ProblemKind(409, "Nothing to redo", "There is nothing to do."),
    "nothing-to-release": ProblemKind(409, "There is no hold to release", "Release a figure that is held."),
    "nothing-to-undo": ProblemKind(409, "Nothing to undo", "There is nothing to do."),
    "too-many-points": ProblemKind(409, "There are too many points", "Take out those that are settled."),
    "several-figures": ProblemKind(409, "Several statements have this figure", "Name the statement too."),
    "stale-revision": ProblemKind(
        409, "The pack has changed since", "Reload the pack and repeat the change."
    ),
    TOO_LARGE: ProblemKind(413, "The file is too large", "Split it into several."),
    TOO_SLOW: ProblemKind(408, "The request did not come in time", "Send it again."),
    TOO_BUSY: ProblemKind(503, "The server is busy", "Try again after the seconds in Retry-After."),
    STOPPING: ProblemKind(503, "The server is stopping", "Try again when it is back."),
    # The records themselves are at fault.
    NO_RECORDS: ProblemKind(503, "The records cannot be used", "Do as said, and start the program again."),
    BUSY: ProblemKind(503, "The records are in use", "Try again in a moment."),
    DISK_FULL: ProblemKind(507, "The disk is full", "Free some space on it, and try again."),
    "no-backup": ProblemKind(409, "There is no copy", "Name another place, or correct what is named."),
    # What was sent cannot be used.
    "bad-address": ProblemKind(422, "This database cannot be read", "Name another address."),
    "bad-query": ProblemKind(422, "The query has no answer that can be taken", "Ask otherwise."),
    "bad-source": ProblemKind(422, "It cannot be taken from there", "Choose another figure or pack."),
    "bad-token": ProblemKind(422, "This is no token of theirs", "Give a name, or a number of the list."),
    "no-name": ProblemKind(422, "A signature needs a name", "Say who you are, or sign in."),
    "bad-amount": ProblemKind(
        422, "An amount cannot be read", "Write it as a plain decimal, such as -1250.40."
    ),
    "bad-document": ProblemKind(422, "The document cannot be read", "Do as said."),
    "bad-container": ProblemKind(422, "The container was changed", "Ask for the original file."),
    "bad-issue": ProblemKind(422, "Something is missing for the issue", "Fill in what is named."),
    "bad-certificate": ProblemKind(
        422,
        "The certificate cannot be taken",
        "Use one that `humble-sum foot --certificate` wrote for this problem.",
    ),
    "bad-convention": ProblemKind(
        422, "The convention does not fit the cells", "Choose one that the column's cells can be read by."
    ),
    "bad-decisions": ProblemKind(
        422, "The decisions cannot be used", "Correct what is named, or write it again."
    ),
    "bad-members": ProblemKind(422, "The list of members cannot be used", "Name each member once."),
    "bad-pack": ProblemKind(
        422,
        "The pack file cannot be taken",
        "Correct each place named; docs/formats/pack.schema.json says what is expected.",
    ),
    "bad-place": ProblemKind(
        422, "The place cannot be understood", "Write a line and a column, as in costs/y26."
    ),
    "bad-plan": ProblemKind(422, "The plan cannot be used", "Take its words from docs/footing.md."),
    "bad-problem": ProblemKind(
        422,
        "The footing problem cannot be taken",
        "Correct each place named; docs/formats/footing.schema.json says what is expected.",
    ),
    BAD_REQUEST: ProblemKind(
        422, "The request is not valid", "Correct each place named; the OpenAPI file says what is expected."
    ),
    "not-drawable": ProblemKind(422, "The chart cannot be drawn", "Use another format."),
    "bad-rule": ProblemKind(
        422, "The rule cannot be taken", "Correct each clause named; docs/clauses.md has every value."
    ),
    "bad-rulebook": ProblemKind(
        422,
        "The rulebook cannot be taken",
        "Correct each place named; docs/formats/rulebook.schema.json says what is expected.",
    ),
    "bad-structure": ProblemKind(
        422, "The structure cannot be changed this way", "Choose another line or total."
    ),
    "bad-tie": ProblemKind(422, "The figures cannot be tied", "Tie figures that are one and the same."),
    "does-not-verify": ProblemKind(
        422,
        "The issue does not verify",
        "It was not numbered. Leave out the files that the faults name, and report it as a fault of ours.",
    ),
    "cannot-tag": ProblemKind(
        422, "The edition cannot be tagged", "Do as the faults say, or leave the tagged page out."
    ),
    "broken-file": ProblemKind(422, "The file or its query is broken", "Do as the fault says."),
    "broken-text": ProblemKind(422, "The file is broken", "Export it again from its source."),
    "broken-workbook": ProblemKind(
        422, "The workbook is broken", "Open it where it was made and save it again."
    ),
    "closed-workbook": ProblemKind(422, "The workbook is locked", "Save it without a password."),
    "no-certificate": ProblemKind(
        422, "There is no certificate", "Give the search more time, or use the plan without a certificate."
    ),
    "no-table": ProblemKind(
        422, "There is nothing to take in", "Take in a file that has a table of figures."
    ),
    "not-a-pack": ProblemKind(
        422,
        "This is not a pack file",
        "Choose a file that Humble Sum wrote as a pack, or take it in as figures.",
    ),
    "not-a-house-style": ProblemKind(
        422, "This is not a house style", "Choose a rulebook file that names its house style and version."
    ),
    "no-house-styles": ProblemKind(
        503, "The folder of house styles cannot be used", "Look whether it is there and may be written to."
    ),
    "version-kept": ProblemKind(409, "This version is kept already", "Give the next number to what is new."),
    "not-a-rulebook": ProblemKind(422, "This is not a rulebook", "Choose a rulebook file."),
    "not-json": ProblemKind(422, "The file is not JSON", "Correct the place named."),
    "not-records": ProblemKind(422, "These are not records", "Send a list of objects, one a row."),
    "nothing-matches": ProblemKind(
        422, "The figures do not match the layout", "Take them in as a new pack, or rename the lines alike."
    ),
    "nothing-to-copy": ProblemKind(
        422, "There is nothing to copy", "Change a word of the line on the line first."
    ),
    "other-version": ProblemKind(
        422, "The file has another version", "Open it with the version that wrote it, or a later one."
    ),
    "out-of-time": ProblemKind(422, "The time ran out", "Allow more seconds."),
    "too-long": ProblemKind(422, "The file is too long", "Take in part of it."),
    "unknown-encoding": ProblemKind(422, "The file cannot be read as text", "Save it as UTF-8."),
    "unknown-locale": ProblemKind(422, "No such locale", "Use a language tag of BCP 47, such as en-IN."),
    # Our own.
    FAULT_OF_OURS: ProblemKind(
        500, "Something went wrong", "Try again; if it stays, send us what the log says."
    ),
}
# Slugs that only the command line and Python say, which have no request to answer.
OF_THE_COMMAND_LINE = frozenset(
    (
        *("bad-batch", "bad-file", "bad-key", "bad-seal"),
        *("no-cluster", "no-file", "no-host", "no-port", "no-terminal"),
    )
)
