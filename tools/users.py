"""How long ten users wait, each with a request every two seconds, while one worker is at four queued searches.

`python tools/users.py ADDRESS [--users 10] [--seconds 60] [--searches 4]` against a Tirante that runs with its demo jobs. Every user has
a job of its own and edits as the page does: a point is moved and its three views drawn, a part is changed and worked out, the car is
changed and all of it worked out, a drawing is looked at, the draft is saved. Prints median and 95th percentile of each kind of request. Never a test: the machine
decides.
"""

from __future__ import annotations

import argparse
import copy
import random
import threading
import time
import urllib.error
from typing import Any

from client import Client, new

EVERY = 2.0  # [s] between the requests of one user


class User(threading.Thread):
    """Edits a copy of a demo job."""

    def __init__(self, client: Client, job: Any, number: int, until: float, took: dict[str, list[float]]) -> None:
        super().__init__(daemon=True)
        self.client, self.until, self.took = client, until, took
        self.chance = random.Random(number)
        self.design = copy.deepcopy(job["design"])
        self.design["name"] = f"User {number}"
        made = client.post("/api/import", {"id": new(), "design": self.design})
        self.job_id, self.version, self.design = made["job_id"], made["version"], made["design"]
        self.faults: list[str] = []

    def run(self) -> None:
        """One request after the other, none sooner than two seconds after the last began."""
        time.sleep(self.chance.uniform(0, EVERY))
        while time.monotonic() < self.until:
            begin = time.monotonic()
            what = self.chance.choice(
                (self.move_a_point, self.change_a_part, self.change_the_car, self.look_at_a_part, self.save)
            )
            try:
                what()
                self.took.setdefault(what.__name__.replace("_", " "), []).append(time.monotonic() - begin)
            except urllib.error.HTTPError as error:
                self.faults.append(f"{what.__name__}: {error.code} {error.read()[:200]!r}")
            except OSError as error:
                self.faults.append(f"{what.__name__}: {error}")
            time.sleep(max(0.0, EVERY - (time.monotonic() - begin)))

    def move_a_point(self) -> None:
        """A coordinate typed: the three views again."""
        end = self.chance.choice(self.design["ends"])
        point = self.chance.choice(sorted(end["end"]["points"]))
        end["end"]["points"][point][2] += self.chance.uniform(-0.4, 0.4)
        body = {"design": self.design, "end_id": end["id"], "travel_mm": self.chance.uniform(-20, 20)}
        self.client.post("/api/study/drawing", body)

    def change_a_part(self) -> None:
        """A load typed at a link: that link and its tabs worked out, the rest from memory."""
        part = self.chance.choice([one for one in self.design["parts"] if one["kind"] == "link"])
        part["cases"] = [{"name": "typed", "axial_n": self.chance.uniform(1000, 4000)}]
        self.client.post("/api/evaluate", {"design": self.design})

    def change_the_car(self) -> None:
        """A mass typed: every case of both ends carried anew, and every part worked out."""
        self.design["car"]["mass_kg"] = self.chance.uniform(1000, 1400)
        self.client.post("/api/evaluate", {"design": self.design})

    def look_at_a_part(self) -> None:
        """A part chosen: its drawing."""
        part = self.chance.choice([one for one in self.design["parts"] if one["kind"] == "link"])
        self.client.post("/api/draw", {"design": self.design, "part_id": part["id"]})

    def save(self) -> None:
        """The draft put."""
        self.version = self.client.save(self.job_id, self.version, self.design, new())


def late(times: list[float]) -> str:
    """Median and 95th percentile."""
    times = sorted(times)
    return f"median {times[len(times) // 2] * 1000:5.0f} ms   95th percentile {times[int(0.95 * (len(times) - 1))] * 1000:5.0f} ms"


def main() -> None:
    """Let them work."""
    asked = argparse.ArgumentParser(description=(__doc__ or "").splitlines()[0])
    asked.add_argument("address")
    asked.add_argument("--users", type=int, default=10)
    asked.add_argument("--seconds", type=float, default=60.0)
    asked.add_argument("--searches", type=int, default=4)
    given = asked.parse_args()
    client = Client(given.address)
    job = next(one for one in client.get("/api/jobs")["jobs"] if one["name"] == "Marram")
    job = client.get(f"/api/jobs/{job['id']}")
    took: dict[str, list[float]] = {}
    until, done = time.monotonic() + given.seconds, 0

    def search() -> None:
        """Searches, so many queued at any time."""
        nonlocal done
        queue: list[str] = []
        while time.monotonic() < until:
            for task in list(queue):
                if client.get(f"/api/tasks/{task}")["state"] not in ("queued", "running"):
                    queue.remove(task)
                    done += 1
            while len(queue) < given.searches:
                queue.append(new())
                # never twice the same: no memory answers it
                design = copy.deepcopy(job["design"])
                design["car"]["mass_kg"] = 1000.0 + random.random() * 400
                client.post("/api/tasks/size-all", {"id": queue[-1], "job_id": job["job_id"], "design": design})
            time.sleep(0.5)
        for task in queue:
            client.post(f"/api/tasks/{task}/stop", {})

    users = [User(client, job, number, until, took) for number in range(given.users)]
    searching = threading.Thread(target=search)
    for one in (searching, *users):
        one.start()
    for one in (searching, *users):
        one.join()
    for what, times in sorted(took.items()):
        print(f"{what:16} {len(times):4} ×   {late(times)}")
    every = [one for times in took.values() for one in times]
    print(f"{'all':16} {len(every):4} ×   {late(every)}; {done} searches done meanwhile")
    for fault in [fault for user in users for fault in user.faults][:10]:
        print(f"fault: {fault}")


if __name__ == "__main__":
    main()
