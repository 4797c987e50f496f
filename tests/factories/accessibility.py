"""What `tests/browser/test_axe.py` and others make and look at."""

from pathlib import Path

AXE = Path(__file__).parents[2] / "node_modules" / "axe-core" / "axe.min.js"


LEVELS = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"]


def violations(page):
    """What axe finds, as rule: places."""
    if not page.evaluate("() => 'axe' in window"):
        page.add_script_tag(path=AXE)
    found = page.evaluate("(levels) => axe.run({ runOnly: levels })", LEVELS)
    assert found["passes"]  # it looked at something
    return {one["id"]: [node["target"] for node in one["nodes"]] for one in found["violations"]}
