"""The one command: start, second start, stop by each signal, restart after a kill, backup and restore."""

import json
import os
import shutil
import signal
import socket
import subprocess
import sys
import tempfile
import threading
import time
import urllib.error
import urllib.request
import uuid
from collections.abc import Iterator
from contextlib import contextmanager
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path
from typing import Any

import pytest

from tirante.server.mariadb import StartFailed
from tirante.server.supervisor import _again, _answers, _Watched

ROOT = Path(__file__).resolve().parents[2]
DEMO = {"Marram", "Tern", "Quay", "Plover", "Dunlin"}


class Run:
    """A supervisor on a folder of its own."""

    def __init__(self, home: Path) -> None:
        self.home = home
        self.environment = {**os.environ, "PYTHONPATH": str(ROOT / "src"), "TIRANTE_HOME": str(home)}
        self.environment.pop("TIRANTE_STATIC", None)
        self.process: subprocess.Popen[str] | None = None

    def command(self, *arguments: str) -> list[str]:
        return [sys.executable, "-m", "tirante.server.supervisor", *arguments]

    def start(self) -> float:
        port = _free_port()
        begin = time.monotonic()
        self.process = subprocess.Popen(
            self.command("demo", "--port", str(port)), env=self.environment, stdout=subprocess.PIPE, text=True
        )
        while time.monotonic() < begin + 60:
            if (self.home / "run.json").exists():
                return time.monotonic() - begin
            if self.process.poll() is not None:
                said, _ = self.process.communicate()  # closes the pipe: left open it fails some later test instead
                raise AssertionError(f"it ended with {self.process.returncode}: {said}")
            time.sleep(0.02)
        raise AssertionError("it did not start")

    @property
    def state(self) -> dict[str, Any]:
        return json.loads((self.home / "run.json").read_text())

    def get(self, path: str) -> Any:
        with urllib.request.urlopen(self.state["address"] + path.lstrip("/"), timeout=10) as answer:
            return json.loads(answer.read())

    def post(self, path: str, body: dict[str, Any]) -> Any:
        request = urllib.request.Request(
            self.state["address"] + path.lstrip("/"), json.dumps(body).encode(), {"Content-Type": "application/json"}
        )
        with urllib.request.urlopen(request, timeout=10) as answer:
            return json.loads(answer.read())

    def stop(self, number: int = signal.SIGTERM) -> int:
        assert self.process
        self.process.send_signal(number)
        code = self.process.wait(30)
        assert self.process.stdout
        self.process.stdout.close()
        return code


def _free_port() -> int:
    from tirante.server.mariadb import free_port

    return free_port()


def alive(pid: int) -> bool:
    try:
        os.kill(pid, 0)
    except ProcessLookupError:
        return False
    return Path(f"/proc/{pid}/stat").read_text().split()[2] != "Z"


def wait_for(condition: Any, seconds: float = 30) -> None:
    end = time.monotonic() + seconds
    while not condition():
        assert time.monotonic() < end
        time.sleep(0.05)


@contextmanager
def home() -> Iterator[Run]:
    """A supervisor on an empty folder, both gone afterwards."""
    found = Run(Path(tempfile.mkdtemp(prefix="tirante-home-")))
    yield found
    if found.process and found.process.poll() is None:
        found.stop(signal.SIGKILL)
    shutil.rmtree(found.home, ignore_errors=True)


@pytest.fixture
def empty() -> Iterator[Run]:
    """Nothing was ever started there."""
    with home() as found:
        yield found


@pytest.fixture(scope="session")
def started_once() -> Iterator[Path]:
    """A folder that a start was made in, stopped again: to install a database takes longer than to copy it."""
    with home() as found:
        found.start()
        assert found.stop() == 0
        yield found.home


@pytest.fixture
def run(started_once: Path) -> Iterator[Run]:
    """A copy of what was started once."""
    with home() as found:
        shutil.copytree(started_once, found.home, dirs_exist_ok=True)
        yield found


def test_it_serves_the_demo_and_each_signal_stops_all_of_it(empty: Run) -> None:
    run = empty
    for number in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
        run.start()
        assert {job["name"] for job in run.get("/api/jobs")["jobs"]} == DEMO, number
        children = [run.state["database_pid"], run.state["server_pid"], run.state["worker_pid"]]
        if number == signal.SIGINT:  # a second start says where this one runs, and stops nothing
            second = subprocess.run(
                run.command("demo"), env=run.environment, capture_output=True, text=True, timeout=30
            )
            assert run.state["address"] in second.stdout
            assert second.returncode == 0
            assert run.get("/api/health")["database"]
        assert run.stop(number) == 0, number
        assert not any(alive(pid) for pid in children), number
        assert not (run.home / "run.json").exists(), number


def test_a_second_start_keeps_what_was_saved_and_does_not_load_the_demo_over_it(run: Run) -> None:
    run.start()
    marram = next(j for j in run.get("/api/jobs")["jobs"] if j["name"] == "Marram")
    draft = run.get(f"/api/jobs/{marram['id']}")
    draft["design"]["name"] = "Marram, mine"
    request = urllib.request.Request(
        f"{run.state['address']}api/jobs/{marram['id']}/draft", json.dumps({"save_id": str(uuid.uuid4()), "design": draft["design"]}).encode(),
        {"Content-Type": "application/json", "If-Match": str(draft["version"])}, method="PUT",
    )  # fmt: skip
    urllib.request.urlopen(request, timeout=10).close()
    run.stop()
    run.start()
    assert {job["name"] for job in run.get("/api/jobs")["jobs"]} == (DEMO - {"Marram"}) | {"Marram, mine"}


def test_a_killed_supervisor_takes_its_children_with_it_and_the_next_start_heals(run: Run) -> None:
    run.start()
    children = [run.state["database_pid"], run.state["server_pid"]]
    run.stop(signal.SIGKILL)
    wait_for(lambda: not any(alive(pid) for pid in children))
    (run.home / "run.json").unlink()
    run.start()
    assert len(run.get("/api/jobs")["jobs"]) == len(DEMO)


def test_a_dead_database_or_server_is_brought_back(run: Run) -> None:
    run.start()
    for name in ("database_pid", "server_pid"):
        pid = run.state[name]
        os.kill(pid, signal.SIGKILL)
        wait_for(lambda name=name, pid=pid: run.state[name] != pid)

        def answers() -> bool:
            try:
                return bool(run.get("/api/jobs")["jobs"])
            except (urllib.error.URLError, OSError):
                return False

        wait_for(answers)
    assert run.post("/api/jobs", {"id": str(uuid.uuid4()), "name": "after"})["design"]["name"] == "after"


def test_a_search_goes_on_when_its_worker_is_killed_and_its_result_is_kept(run: Run) -> None:
    run.start()
    job = next(one for one in run.get("/api/jobs")["jobs"] if one["name"] == "Marram")
    design = run.get(f"/api/jobs/{job['id']}")["design"]
    task = str(uuid.uuid4())
    run.post("/api/tasks/size-all", {"id": task, "job_id": job["id"], "design": design})
    wait_for(lambda: run.get(f"/api/tasks/{task}")["state"] == "running", 30)
    first = run.state["worker_pid"]
    os.kill(first, signal.SIGKILL)
    wait_for(lambda: run.state["worker_pid"] != first)
    wait_for(lambda: run.get(f"/api/tasks/{task}")["state"] == "done", 60)
    sized = run.get(f"/api/tasks/{task}")["sized"]["parts"]
    assert all(one["sized"] for one in sized if one["searched"])
    # it is there after a restart too
    address = run.state["worker_pid"]
    run.stop()
    assert not alive(address)
    run.start()
    assert run.get(f"/api/tasks/{task}")["sized"]["stopped"] is False


def test_what_a_killed_start_left_is_seen_through_though_its_number_is_another_s_by_now(run: Run) -> None:
    # a lock and a note of a process whose number belongs to one that lives (this test's own) and holds no lock
    run.home.mkdir(exist_ok=True)
    note = {
        "address": "http://127.0.0.1:1/",
        "pid": os.getpid(),
        "database_pid": os.getpid(),
        "server_pid": os.getpid(),
    }
    (run.home / "run.lock").write_text(str(os.getpid()))
    (run.home / "run.json").write_text(json.dumps(note))
    process = subprocess.Popen(
        run.command("demo", "--port", str(_free_port())), env=run.environment, stdout=subprocess.PIPE, text=True
    )
    run.process = process

    def begun() -> bool:
        try:
            return bool(run.state["address"] != note["address"])
        except FileNotFoundError:  # the note is taken away first
            return False

    wait_for(begun, 60)
    assert len(run.get("/api/jobs")["jobs"]) == len(DEMO)
    assert alive(os.getpid())
    assert run.stop() == 0


def test_backup_and_restore_bring_everything_back(run: Run) -> None:
    run.start()
    run.post("/api/jobs", {"id": str(uuid.uuid4()), "name": "kept"})
    run.stop()
    file = run.home / "all.sql"
    subprocess.run(run.command("backup", str(file)), env=run.environment, check=True, capture_output=True)
    run.start()
    run.post("/api/jobs", {"id": str(uuid.uuid4()), "name": "later"})
    run.stop()
    subprocess.run(run.command("restore", str(file)), env=run.environment, check=True, capture_output=True)
    run.start()
    assert {job["name"] for job in run.get("/api/jobs")["jobs"]} == {*DEMO, "kept"}
    assert list((run.home / "backups").glob("before-restore-*.sql"))


def test_a_restore_that_cannot_be_whole_changes_nothing_and_no_command_of_the_client_in_it_is_run(run: Run) -> None:
    run.start()
    run.post("/api/jobs", {"id": str(uuid.uuid4()), "name": "precious"})
    file, trace = run.home / "all.sql", run.home / "trace"
    subprocess.run(run.command("backup", str(file)), env=run.environment, check=True, capture_output=True)
    run.stop()
    text = file.read_text()
    end = "\n-- Dump completed on 2026-01-02\n"
    harmed = {
        "empty": "", "cut off": text[: len(text) // 2], "another's": "CREATE TABLE other (a INT);" + end,
        "wrong statement": text.rsplit("-- Dump completed", 1)[0] + "INSERT INTO nowhere VALUES (1);" + end,
        "commands": f"\\! touch {trace}\nsystem touch {trace}\n" + text,
    }  # fmt: skip
    for harm, content in harmed.items():
        file.write_text(content)
        done = subprocess.run(run.command("restore", str(file)), env=run.environment, capture_output=True, text=True)
        assert done.returncode == 1, harm
        assert "nothing was changed" in done.stderr or harm == "commands", harm
        assert "Traceback" not in done.stderr, harm
    assert not trace.exists()
    run.start()
    assert "precious" in {job["name"] for job in run.get("/api/jobs")["jobs"]}


def test_an_account_outlasts_a_kill_and_an_owner_who_forgot_gets_a_new_password_at_the_machine(run: Run) -> None:
    run.start()
    forgotten = "anvil-cedar-lantern-9"
    made = run.post("/api/people/first", {"id": str(uuid.uuid4()), "name": "Owner", "password": forgotten})
    assert made["me"]["name"] == "Owner"
    told = subprocess.run(run.command("new-password", "Owner"), env=run.environment, capture_output=True, text=True)
    assert (told.returncode, "Stop the running Tirante first" in told.stderr) == (1, True)
    children = [run.state["database_pid"], run.state["server_pid"]]
    run.stop(signal.SIGKILL)
    wait_for(lambda: not any(alive(pid) for pid in children))
    (run.home / "run.json").unlink()
    nobody = subprocess.run(run.command("new-password", "Other"), env=run.environment, capture_output=True, text=True)
    assert (nobody.returncode, nobody.stderr.strip()) == (1, "Nobody here is called Other.")
    told = subprocess.run(run.command("new-password", "owner"), env=run.environment, capture_output=True, text=True)
    assert told.returncode == 0, told.stderr
    given = next(word for word in (told.stdout + told.stderr).split() if word.count("-") == 3)
    run.start()
    with pytest.raises(urllib.error.HTTPError, match="422"):
        run.post("/api/sign-in", {"name": "Owner", "password": forgotten})
    assert run.post("/api/sign-in", {"name": "Owner", "password": given})["me"]["role"] == "owner"
    with pytest.raises(urllib.error.HTTPError, match="401"):
        run.get("/api/jobs")


def test_no_network_is_served_where_nobody_has_an_account(run: Run) -> None:
    refused = subprocess.run(run.command("serve", "--lan", "127.0.0.9"), env=run.environment, capture_output=True, text=True)  # fmt: skip
    assert refused.returncode == 1
    assert "only with accounts, and nobody has one yet" in refused.stderr
    assert not (run.home / "run.json").exists()


@pytest.mark.parametrize("port", ["0", "65536", "-5", "x", "1" * 400, "80.5"])
def test_what_is_no_port_is_said_and_nothing_is_started(empty: Run, port: str) -> None:
    run = empty
    done = subprocess.run(run.command("serve", f"--port={port}"), env=run.environment, capture_output=True, text=True)
    assert done.returncode == 2
    assert "is no port" in done.stderr
    assert not (run.home / "mariadb").exists()


def test_a_port_of_another_program_is_not_taken_for_its_own(empty: Run) -> None:
    run = empty

    class Other(BaseHTTPRequestHandler):
        def do_GET(self) -> None:
            self.send_response(200)
            self.end_headers()
            self.wfile.write(b'{"database": true, "instance": "somebody else"}')

        def log_message(self, *_: Any) -> None:
            pass

    with ThreadingHTTPServer(("127.0.0.1", 0), Other) as other:
        threading.Thread(target=other.serve_forever, daemon=True).start()
        port = other.server_address[1]
        assert not _answers(port, "mine", seconds=5)
        assert _answers(port, "somebody else", seconds=5)
        done = subprocess.run(
            run.command("serve", f"--port={port}"), env=run.environment, capture_output=True, text=True
        )
        other.shutdown()
    assert done.returncode == 1
    assert "taken by another program" in done.stderr


def test_a_server_that_accepts_and_says_nothing_hangs_and_one_that_answers_does_not(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    monkeypatch.setattr(_Watched, "LOOK_EVERY", 0.2)
    monkeypatch.setattr(_Watched, "HANGS_AFTER", 0.5)
    with socket.socket() as silent:
        silent.bind(("127.0.0.1", 0))
        silent.listen()
        watched = _Watched(silent.getsockname()[1], "x")
        assert not watched.hangs()
        wait_for(watched.hangs, 10)
        watched.rest()
        assert not watched.hangs()


def test_what_does_not_start_is_tried_until_it_does(monkeypatch: pytest.MonkeyPatch) -> None:
    tried: list[float] = []
    pauses: list[float] = []
    monkeypatch.setattr(time, "sleep", pauses.append)

    def start() -> None:
        tried.append(0.0)
        if len(tried) < 4:
            raise StartFailed("no room") if len(tried) < 3 else OSError("no memory")

    _again("MariaDB", start)
    assert len(tried) == 4
    assert pauses == [0.5, 1.0, 2.0]


def test_it_listens_on_loopback_only_and_a_backup_is_made_while_it_runs(run: Run) -> None:
    run.start()
    ports = {int(run.state["address"].rsplit(":", 1)[1].strip("/"))}
    for line in Path("/proc/net/tcp").read_text().splitlines()[1:]:
        address, state = line.split()[1], line.split()[3]
        if state == "0A" and int(address.split(":")[1], 16) in ports:
            assert address.startswith("0100007F")
    config = (run.home / "mariadb" / "my.cnf").read_text()
    assert "bind-address=127.0.0.1" in config
    assert (run.home / "mariadb").stat().st_mode & 0o077 == 0
    assert (run.home / "tirante.secret").stat().st_mode & 0o077 == 0
    run.post("/api/jobs", {"id": str(uuid.uuid4()), "name": "under way"})
    file = run.home / "x.sql"
    done = subprocess.run(run.command("backup", str(file)), env=run.environment, capture_output=True, text=True)
    assert done.returncode == 0, done.stderr
    assert "under way" in file.read_text()
    assert file.read_text().rstrip().rsplit("\n", 1)[-1].startswith("-- Dump completed")
    assert run.get("/api/health")["database"] is True
