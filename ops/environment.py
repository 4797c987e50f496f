"""The Python environment, Node packages, fonts and styles; each is made again only when its lock changed."""

import hashlib
import os
import shutil
import sys
import venv
from pathlib import Path

from ops.phases import ROOT, RUN, PhaseFailed, call, phase

VENV = ROOT / ".venv"
PYTHON = VENV / "bin" / "python"
GENERATED = ROOT / "web" / "design" / "static" / "generated"
_NETWORK = "Check that PyPI and the npm registry can be reached, then run the command again."


LEVELS = ("base", "dev", "bench")


def ensure_python(level: str = "base") -> None:
    """`.venv` from the hash-locked requirements of a level; a higher level serves a lower one."""
    if sys.version_info[:2] < (3, 11):  # noqa: UP036  (the first thing a fresh machine may get wrong)
        raise PhaseFailed("Python 3.11 is needed. Install python3.11 and run ./reed with it.")
    locks = [ROOT / "requirements" / f"{name}.txt" for name in LEVELS[LEVELS.index(level) :]]
    lock, stamp = locks[0], VENV / "locked"
    if PYTHON.exists() and stamp.exists() and stamp.read_text() in map(_digest, locks):
        return
    with phase(f"Python environment from requirements/{lock.name}"):
        if not PYTHON.exists():
            venv.create(VENV, with_pip=True, clear=True)
        tools = ["install", "-q", "--disable-pip-version-check", "--require-hashes"]
        tools += ["-r", str(ROOT / "requirements" / "tools.txt")]
        call([str(PYTHON), "-m", "pip", *tools], todo=_NETWORK)
        sync = ["-m", "uv", "pip", "install", "--require-hashes", "-q", "-r", str(lock)]
        call([str(PYTHON), *sync], todo=_NETWORK, env=_environment())
        stamp.write_text(_digest(lock))


def ensure_styles() -> None:
    """`npm ci`, then the CSS, the fonts and the vendored scripts into static/generated."""
    inputs = [ROOT / "package-lock.json", *_style_sources()]
    digest = _digest(*inputs)
    stamp = GENERATED / "made-from"
    if stamp.exists() and stamp.read_text() == digest:
        return
    npm = shutil.which("npm")
    if npm is None:
        raise PhaseFailed("npm is not there. Install Node.js 20 with npm, then run this again.")
    installed = ROOT / "node_modules" / ".made-from"
    lock = _digest(ROOT / "package-lock.json")
    if not installed.exists() or installed.read_text() != lock:
        with phase("Node packages from package-lock.json"):
            call([npm, "ci", "--ignore-scripts", "--silent"], todo=_NETWORK)
            installed.write_text(lock)
    with phase("styles, fonts, scripts"):
        _generate()
        stamp.write_text(digest)


def _generate() -> None:
    shutil.rmtree(GENERATED, ignore_errors=True)
    fonts = GENERATED / "fonts"
    fonts.mkdir(parents=True)
    source = ROOT / "node_modules" / "@fontsource-variable"
    for family, style in (("atkinson-hyperlegible-next", "wght"), ("fraunces", "wght")):
        for subset in ("latin", "latin-ext"):
            name = f"{family}-{subset}-{style}-normal.woff2"
            shutil.copy(source / family / "files" / name, fonts / name)
    for name, built in (("idb", "build/index.js"), ("idiomorph", "dist/idiomorph.esm.js")):
        script = (ROOT / "node_modules" / name / built).read_text(encoding="utf-8")
        (GENERATED / f"{name}.js").write_text(f"// @ts-nocheck\n{script}", encoding="utf-8")
    tailwind = ROOT / "node_modules" / ".bin" / "tailwindcss"
    app_css = ROOT / "web" / "design" / "app.css"
    call(
        [str(tailwind), "-i", str(app_css), "-o", str(GENERATED / "app.css"), "--minify"],
        todo="Mend web/design/app.css.",
    )


def _style_sources() -> list[Path]:
    web = ROOT / "web"
    return sorted([*web.rglob("*.css"), *web.rglob("*.html"), *web.rglob("static/*/*.js")])


def _digest(*paths: Path) -> str:
    whole = hashlib.sha256()
    for path in paths:
        if GENERATED not in path.parents:
            whole.update(path.read_bytes())
    return whole.hexdigest()


def _environment() -> dict[str, str]:
    return {**os.environ, "UV_SYSTEM_CERTS": "1", "UV_CACHE_DIR": str(RUN / "uv-cache")}
