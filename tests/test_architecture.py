"""Rules of the tree that a tool can check."""

import ast
import re
import subprocess
from pathlib import Path

import pytest

from tirante.core.sources import SOURCES

ROOT = Path(__file__).resolve().parents[1]
CORE = sorted((ROOT / "src/tirante/core").rglob("*.py"))


def tracked() -> list[Path]:
    names = subprocess.run(
        ["git", "ls-files", "-co", "--exclude-standard"], cwd=ROOT, capture_output=True, text=True, check=True
    ).stdout.split("\n")
    return [ROOT / name for name in names if name and (ROOT / name).is_file()]


@pytest.mark.parametrize("path", CORE, ids=lambda p: p.stem)
def test_the_core_has_no_clock_files_network_or_unseeded_chance(path: Path) -> None:
    tree = ast.parse(path.read_text())
    imported = {a.name.split(".")[0] for n in ast.walk(tree) if isinstance(n, ast.Import) for a in n.names}
    imported |= {(n.module or "").split(".")[0] for n in ast.walk(tree) if isinstance(n, ast.ImportFrom)}
    assert not imported & {
        "os",
        "pathlib",
        "time",
        "datetime",
        "random",
        "socket",
        "subprocess",
        "sqlite3",
        "urllib",
        "flask",
        "pymysql",
    }
    called = {n.func.id for n in ast.walk(tree) if isinstance(n, ast.Call) and isinstance(n.func, ast.Name)}
    assert "open" not in called


@pytest.mark.parametrize("path", CORE, ids=lambda p: p.stem)
def test_public_functions_of_the_core_say_what_they_mean(path: Path) -> None:
    tree = ast.parse(path.read_text())
    assert ast.get_docstring(tree), "the module says nothing of itself"
    for node in tree.body:
        if isinstance(node, ast.FunctionDef | ast.ClassDef) and not node.name.startswith("_"):
            assert ast.get_docstring(node), node.name


@pytest.mark.parametrize("path", CORE, ids=lambda p: p.stem)
def test_a_public_function_of_three_parameters_or_more_says_what_each_is(path: Path) -> None:
    for node in ast.parse(path.read_text()).body:
        if not isinstance(node, ast.FunctionDef) or node.name.startswith("_"):
            continue
        given = [a.arg for a in (*node.args.posonlyargs, *node.args.args, *node.args.kwonlyargs)]
        if len(given) < 3:
            continue
        told = (ast.get_docstring(node) or "").partition("Args:")[2]
        assert [name for name in given if not re.search(rf"^ *{name}: \S", told, re.MULTILINE)] == [], node.name


def test_sql_stands_in_storage_only() -> None:
    sql = re.compile(r"\b(SELECT .* FROM|INSERT INTO|UPDATE \w+ SET|DELETE FROM)\b")
    for path in (ROOT / "src/tirante").rglob("*.py"):
        if "storage" in path.parts or path.name == "mariadb.py":
            continue
        assert not sql.search(path.read_text()), path


def test_values_never_stand_in_sql_text() -> None:
    # an f-string in execute() may only name columns kept in a constant
    for path in (ROOT / "src/tirante/storage").rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.Call) and isinstance(node.func, ast.Attribute) and node.func.attr == "execute":
                for part in ast.walk(node.args[0]):
                    if isinstance(part, ast.FormattedValue):
                        assert isinstance(part.value, ast.Name)
                        assert part.value.id.isupper(), (path, part.value.id)


def test_every_source_stands_in_the_methods_page_with_its_status() -> None:
    page = (ROOT / "docs/methods.md").read_text()
    for source in SOURCES.values():
        assert source.key in page, source.key
        assert source.title.split(":")[0] in page, source.title
        assert source.status in page


def test_every_source_that_is_cited_is_known() -> None:
    for path in (ROOT / "src/tirante/calc").glob("*_topics.py"):
        for found in re.findall(r"sources=\(([^)]*)\)", path.read_text()):
            for key in re.findall(r'"([^"]+)"', found):
                assert key in SOURCES, key


def test_no_geometry_or_engineering_in_typescript() -> None:
    # trigonometry in the page draws an arc that the core has given, and nothing else
    for path in (ROOT / "web/src").rglob("*.ts*"):
        if path.name in ("DrawingView.tsx", "generated.ts"):
            continue
        assert not re.search(r"Math\.(sin|cos|tan|asin|acos|atan|sqrt|hypot|PI)", path.read_text()), path


def test_nothing_in_the_page_asks_another_address() -> None:
    for path in [ROOT / "web/index.html", *(ROOT / "web/src").rglob("*.ts*"), *(ROOT / "web/src").rglob("*.css")]:
        assert not re.search(r"https?://(?!www\.w3\.org)", path.read_text()), path


def test_the_tree_names_no_registry_and_no_machine() -> None:
    registry = re.compile(r'"resolved"\s*:\s*"http|index[-_]url\s*[=:]|registry\s*=\s*http')
    here = [str(folder) + "/" for folder in (ROOT, Path.home()) if folder != Path("/")]
    for path in tracked():
        if path.suffix in (".png", ".woff2", ".ttf", ".pdf"):
            continue
        text = path.read_text(errors="replace")
        assert not registry.search(text), path
        assert not any(folder in text for folder in here), path


def test_every_migration_is_one_statement() -> None:
    for path in sorted((ROOT / "src/tirante/storage/migrations").glob("*.sql")):
        assert path.read_text().count(";") == 1, path


def test_modules_stay_readable() -> None:
    # guidance is 400 lines; data tables and the list of checks are longer on purpose
    for path in (ROOT / "src/tirante").rglob("*.py"):
        assert len(path.read_text().splitlines()) < 720, path


def test_lists_and_pages_over_parts_name_no_kind() -> None:
    """What goes over parts does not know which kinds there are: a new one is its folder, its saved model and a line in the registry."""
    over_parts = [
        "job/evaluate.py",
        "job/size_all.py",
        "job/screens.py",
        "job/overview.py",
        "cutting/cut_list.py",
        "checks/first_to_give.py",
    ]
    kinds = re.compile(r"\b(isinstance\([^)]*\b(Link|BoxedLink|Arm|TabPair)\b|parts\.(link|arm|boxed_link|bracket)\b)")
    paths = [ROOT / "src/tirante/core" / name for name in over_parts] + sorted(
        (ROOT / "src/tirante/documents").glob("*.py")
    )
    for path in paths:
        assert not kinds.search(path.read_text()), path
    named = re.compile(r"kind === '(link|boxed_link|arm|tab_pair)'")
    for feature in ("bench", "cutting", "jigs", "brackets"):
        for page in (ROOT / "web/src/features" / feature).glob("*.tsx"):
            assert not named.search(page.read_text()), page


def test_a_feature_is_entered_by_its_index_only(tmp_path: Path) -> None:
    """The rule of the linter is seen to fail: at a feature's own depth, and one deeper."""
    for depth, line in (("brackets", "../parts/PartView"), ("parts/special", "../../members/SizeAll")):
        bad = ROOT / "web/src/features" / depth / "ZzProbe.ts"
        try:
            bad.write_text(f"import {{ x }} from '{line}'\nexport const y = x\n")
            done = subprocess.run(
                ["npx", "eslint", str(bad.relative_to(ROOT / "web"))], cwd=ROOT / "web", capture_output=True, text=True
            )
        finally:
            bad.unlink(missing_ok=True)
        assert "import its index" in done.stdout, done.stdout + done.stderr
