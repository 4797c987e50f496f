"""One name, one meaning: a public class exists once in the whole product."""

import ast
from collections import defaultdict
from pathlib import Path

ASKED_OF_EACH = {"Command"}
"""What a framework asks every module of its sort for, by that very name."""


def test_no_public_class_name_stands_twice():
    found = defaultdict(set)
    for root in ("core", "lab", "web", "ops"):
        for file in Path(root).rglob("*.py"):
            if "migrations" in file.parts:
                continue
            for node in ast.parse(file.read_text()).body:
                if isinstance(node, ast.ClassDef) and not node.name.startswith("_"):
                    found[node.name].add(file.as_posix())
    assert len(found) > 300
    twice = {n: sorted(f) for n, f in found.items() if len(f) > 1 and n not in ASKED_OF_EACH}
    assert twice == {}
