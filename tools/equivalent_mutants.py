"""Changes that no test can notice, with the reason: by module, line and change."""

BOUND = "a bound on effort: any number of that size does"
SOUND = "figures may be narrowed by prices without costs, and in halves: both are sound"

EQUIVALENT: dict[tuple[str, str, str], str] = {
    (
        "core.footing.certificate",
        "MOST_TRIED = 20_000  # plans that a check tries one by one",
        "20_000 → 20001",
    ): BOUND,
    (
        "core.places.typed_figures",
        "BEFORE = 120  # characters of text before a figure that may name it",
        "120 → 121",
    ): BOUND,
    ("core.places.typed_figures", "MOST_OFFERED = 4", "4 → 5"): BOUND,
    (
        "core.changes.structure",
        "outer = -1 if all(sign < 0 for _, sign in inside) else 1",
        "< → <=",
    ): "a sign is 1 or -1",
    (
        "core.changes.derivation",
        "difference = any(sign < 0 for _, sign in terms)",
        "< → <=",
    ): "a sign is 1 or -1",
    ("core.footing.certificate", "return 0", "0 → 1"): "what is held costs the same in every plan",
    ("core.footing.certificate", "if boxes is self.boxes and fineness:", " and  →  or "): SOUND,
    (
        "core.printing.dressing",
        "if end <= 0:",
        "0 → 1",
    ): "one digit is left, and the loop below makes it a group of its own",
    (
        "core.printing.figure",
        "size = max(amount.adjusted(), 0) if amount else 0",
        "0 → 1",
    ): "no size begins below 3",
    (
        "core.printing.frame",
        'sizes = {"threes": (3,), "lakhs": (3, 2), "fours": (4,), "none": ()}'
        ".get(clauses.grouping, of.grouping)",
        "3 → 4",
    ): "what is not taken the quick way prints the same, more slowly",
    (
        "core.printing.frame",
        "or sizes not in ((3,), (3, 2), ())",
        "2 → 3",
    ): "what is not taken the quick way prints the same, more slowly",
    ("core.printing.rounding", "if number >= 0", ">= → >"): "zero is zero either way",
    (
        "core.printing.rounding",
        "return floor + (2 * over > parts)",
        "> → >=",
    ): "both are never equal here",
}
