"""Every write to the database stands in a use-case."""

import ast
from pathlib import Path

WRITES = {
    "create",
    "bulk_create",
    "bulk_update",
    "get_or_create",
    "update_or_create",
    "select_for_update",
}
ELSEWHERE = {
    "web/clinic/models.py",  # create_user, which Django and allauth call by that name
}


def written_in(source: str) -> set[str]:
    return {
        node.func.attr
        for node in ast.walk(ast.parse(source))
        if isinstance(node, ast.Call) and isinstance(node.func, ast.Attribute)
        if node.func.attr in WRITES or (node.func.attr in ("save", "delete") and not _of_form(node))
    }


def _of_form(call: ast.Call) -> bool:
    return isinstance(call.func.value, ast.Call) and ast.unparse(call.func.value) == "super()"


def test_only_use_cases_write():
    found = {}
    for file in sorted(Path("web").rglob("*.py")):
        path = file.as_posix()
        if "/usecases/" in path or "/migrations/" in path or path in ELSEWHERE:
            continue
        if written := written_in(file.read_text()):
            found[path] = written
    assert found == {}


def test_a_write_is_seen():
    assert written_in("Client.objects.create(name='x')\nrow.save()\nrows.delete()") == {
        "create",
        "save",
        "delete",
    }
