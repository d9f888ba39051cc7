"""What random kills of server, database and worker lose: saves and searches go on while one after another is killed.

`python tools/kills.py [--kills 100] [--seed 1]`, in the environment that `./tirante test` has made; it starts a Tirante of its own
in a temporary folder. Each saver saves its job again and again, as the page does: the same save with the same id until it is
acknowledged. Each searcher asks for a search or a pack and follows it. Nothing that was acknowledged may be lost: after every kill
each job holds its last acknowledged save, or the one under way, whole; at the end every task that was acknowledged is done.

Prints the figures; exits with 1 when anything was lost.
"""

from __future__ import annotations

import argparse
import json
import os
import random
import shutil
import signal
import subprocess
import sys
import tempfile
import threading
import time
import urllib.error
from pathlib import Path
from typing import Any

from client import Client, new

ROOT = Path(__file__).resolve().parents[1]
VICTIMS = ("server_pid", "database_pid", "worker_pid")


class Saver(threading.Thread):
    """Counts up in a job's note; what is acknowledged is remembered."""

    def __init__(self, client: Client, number: int, end: threading.Event) -> None:
        super().__init__(daemon=True)
        self.client, self.end = client, end
        self.job_id, self.design = new(), {"name": f"Saver {number}", "note": ""}
        self.acknowledged, self.under_way, self.version = 0, 0, 0
        self.repeats, self.wrong = 0, list[str]()

    def run(self) -> None:
        """Save until told to end."""
        while not self.version and not self.end.is_set():
            try:
                self.version = self.client.post("/api/jobs", {"id": self.job_id, "name": self.design["name"]})[
                    "version"
                ]
            except OSError:
                time.sleep(0.1)
        while not self.end.is_set():
            self.under_way = self.acknowledged + 1
            self.design["note"] = f"{self.under_way} " + "x" * 1500
            save_id, before = new(), self.version
            while not self.end.is_set():
                try:
                    self.version = self.client.save(self.job_id, before, self.design, save_id)
                    self.acknowledged = self.under_way
                    break
                except urllib.error.HTTPError as error:
                    if error.code < 500:
                        self.wrong.append(
                            f"save {self.under_way} of {self.design['name']}: {error.code} {error.read()[:300]!r}"
                        )
                        return
                except OSError:
                    pass
                self.repeats += 1
                time.sleep(0.1)
            time.sleep(0.05)

    def check(self) -> str | None:
        """What is wrong with what is kept; None when it is what was acknowledged, or what was under way."""
        least = self.acknowledged
        found = self.client.get(f"/api/jobs/{self.job_id}")["design"]["note"]
        if not found:
            return None if least == 0 else f"{self.design['name']}: {least} acknowledged, nothing there"
        count, _, rest = found.partition(" ")
        if not least <= int(count) <= self.under_way or rest != "x" * 1500:
            return f"{self.design['name']}: {least} acknowledged, {found[:20]!r} there"
        return None


class Searcher(threading.Thread):
    """Asks for searches and packs, one after the other."""

    def __init__(self, client: Client, end: threading.Event, job: Any, what: str) -> None:
        super().__init__(daemon=True)
        self.client, self.end, self.job, self.what = client, end, job, what
        self.acknowledged: list[str] = []

    def run(self) -> None:
        """Ask, follow, ask again."""
        while not self.end.is_set():
            task = new()
            body = {"id": task, "job_id": self.job["job_id"]}
            body |= {"design": self.job["design"]} if self.what == "size-all" else {"what": "pack.zip"}
            try:
                self.client.post(f"/api/tasks/{self.what}", body)
                self.acknowledged.append(task)
                while not self.end.is_set() and self.client.get(f"/api/tasks/{task}")["state"] in ("queued", "running"):
                    time.sleep(0.3)
            except OSError:
                time.sleep(0.2)


def state(home: Path) -> Any:
    """What the supervisor says of itself."""
    while True:
        try:
            return json.loads((home / "run.json").read_text())
        except (OSError, ValueError):
            time.sleep(0.05)


def until_it_answers(client: Client, seconds: float = 60.0) -> float:
    """How long it takes until jobs are answered for again."""
    begin = time.monotonic()
    while time.monotonic() < begin + seconds:
        try:
            client.get("/api/jobs")
            return time.monotonic() - begin
        except OSError:
            time.sleep(0.05)
    raise SystemExit("it did not come back")


def main() -> int:
    """Kill and count."""
    asked = argparse.ArgumentParser(description=(__doc__ or "").splitlines()[0])
    asked.add_argument("--kills", type=int, default=100)
    asked.add_argument("--seed", type=int, default=1)
    given = asked.parse_args()
    home, chance = Path(tempfile.mkdtemp(prefix="tirante-kills-")), random.Random(given.seed)
    environment = {**os.environ, "PYTHONPATH": str(ROOT / "src"), "TIRANTE_HOME": str(home)}
    environment.pop("TIRANTE_STATIC", None)
    supervisor = subprocess.Popen(
        [sys.executable, "-m", "tirante.server.supervisor", "demo"], env=environment, stdout=subprocess.DEVNULL
    )
    lost: list[str] = []
    try:
        client = Client(state(home)["address"], timeout=10.0)
        until_it_answers(client)
        end = threading.Event()
        jobs = client.get("/api/jobs")["jobs"]
        opened = [client.get(f"/api/jobs/{one['id']}") for one in jobs if one["name"] in ("Marram", "Tern")]
        savers = [Saver(client, number, end) for number in range(4)]
        searchers = [Searcher(client, end, job, what) for job, what in zip(opened, ("size-all", "pack"), strict=True)]
        for one in (*savers, *searchers):
            one.start()
        kills, away = dict.fromkeys(VICTIMS, 0), list[float]()
        for number in range(given.kills):
            time.sleep(chance.uniform(0.1, 2.0))
            victim = chance.choice(VICTIMS)
            pid = state(home)[victim]
            os.kill(pid, signal.SIGKILL)
            kills[victim] += 1
            begin = time.monotonic()
            while state(home)[victim] == pid and time.monotonic() < begin + 60:
                time.sleep(0.02)
            away.append(time.monotonic() - begin + until_it_answers(client))
            for saver in savers:
                try:
                    lost += [wrong] if (wrong := saver.check()) else []
                except OSError as error:
                    lost.append(f"after kill {number}: {error}")
            lost += [wrong for saver in savers for wrong in saver.wrong]
        end.set()
        for one in (*savers, *searchers):
            one.join(30)
        lost += [wrong for saver in savers if (wrong := saver.check())]
        tasks = [task for searcher in searchers for task in searcher.acknowledged]
        patience = time.monotonic() + 300
        states: dict[str, str] = {}
        while time.monotonic() < patience:
            states = {task: client.get(f"/api/tasks/{task}")["state"] for task in tasks}
            if not {"queued", "running"} & set(states.values()):
                break
            time.sleep(0.5)
        lost += [f"task {task}: {found}" for task, found in states.items() if found not in ("done", "failed")]
        failed = [client.get(f"/api/tasks/{task}")["fault"] for task, found in states.items() if found == "failed"]
        away.sort()
        print(f"kills: {', '.join(f'{count} × {name[:-4]}' for name, count in kills.items())}")
        print(
            f"saves acknowledged: {sum(saver.acknowledged for saver in savers)}, repeated: {sum(s.repeats for s in savers)}; "
            f"tasks acknowledged: {len(tasks)}, done: {sum(found == 'done' for found in states.values())}, given up: {failed}"
        )
        print(
            f"back after: median {away[len(away) // 2]:.2f} s, 95th percentile {away[int(0.95 * (len(away) - 1))]:.2f} s, most {away[-1]:.2f} s"
        )
        print(f"lost: {lost or 'nothing'}")
    finally:
        supervisor.terminate()
        supervisor.wait(60)
        shutil.rmtree(home, ignore_errors=True)
    return 1 if lost else 0


if __name__ == "__main__":
    raise SystemExit(main())
