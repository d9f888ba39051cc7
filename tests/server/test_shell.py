"""The shell command: help, wrong words, a folder of another's, missing packages named in one line."""

import json
import os
import pwd
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parents[2]


def run(*arguments: str, **environment: str) -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        [str(ROOT / "tirante"), *arguments],
        capture_output=True,
        text=True,
        env={**os.environ, **environment},
        timeout=120,
        input="",
    )


def test_help_names_every_command() -> None:
    done = run("help")
    assert done.returncode == 0
    for command in ("demo", "serve", "test", "calc", "pack", "bench", "backup", "restore"):
        assert f"./tirante {command}" in done.stdout


def test_a_wrong_command_says_what_there_is() -> None:
    done = run("dmeo")
    assert done.returncode == 2
    assert "./tirante demo" in done.stderr
    assert done.stdout == ""


def test_calc_answers_through_the_shell() -> None:
    done = subprocess.run(
        [str(ROOT / "tirante"), "calc", "thread"],
        input='{"designation": "3/4-16 UNF"}',
        capture_output=True,
        text=True,
        timeout=120,
    )
    assert done.returncode == 0
    assert json.loads(done.stdout)["major_mm"] == pytest.approx(19.05)


def test_it_runs_from_any_folder_and_by_a_link(tmp_path: Path) -> None:
    link = tmp_path / "t"
    link.symlink_to(ROOT / "tirante")
    done = subprocess.run([str(link), "calc"], cwd=tmp_path, capture_output=True, text=True, timeout=120)
    assert done.returncode == 0
    assert "stepped-column" in done.stdout


def test_what_it_keeps_is_its_owner_s_alone(tmp_path: Path) -> None:
    home = tmp_path / "home"
    home.mkdir(mode=0o755)
    script = (ROOT / "tirante").read_text()
    part = script[script.index("own_folder() {") : script.index("need_packages() {")]
    subprocess.run(["bash", "-c", f'set -eu\nhome="{home}"\n{part}\nown_folder'], check=True)
    assert home.stat().st_mode & 0o077 == 0


@pytest.mark.skipif(os.getuid() != 0, reason="only root can give a folder to another user")
def test_a_folder_of_another_user_is_named(tmp_path: Path) -> None:
    home = tmp_path / "home"
    home.mkdir()
    owner = pwd.getpwnam("nobody")
    os.chown(home, owner.pw_uid, owner.pw_gid)
    os.chmod(home, 0o777)
    # root owns everything it likes: the check is for the owner, by name
    done = run("calc", TIRANTE_HOME=str(home))
    assert done.returncode == 1
    assert "belongs to nobody" in done.stderr


def test_missing_packages_are_named_in_one_line_for_who_may_not_install(tmp_path: Path) -> None:
    # a machine without MariaDB, seen by an ordinary user without sudo: the words that do the looking are stand-ins
    tools = tmp_path / "bin"
    tools.mkdir()
    for name in ("bash", "env", "readlink", "dirname", "mkdir", "stat", "chmod", "flock", "python3", "cat", "id"):
        found = shutil.which(name)
        assert found
        (tools / name).symlink_to(found)
    (tools / "id").unlink()
    (tools / "id").write_text("#!/bin/sh\necho 1000\n")
    (tools / "id").chmod(0o755)
    script = (ROOT / "tirante").read_text().replace('export PATH="$PATH:/usr/sbin:/sbin"', "true")
    copy = tmp_path / "tirante"
    copy.write_text(script)
    copy.chmod(0o755)
    done = subprocess.run(
        [str(tools / "bash"), str(copy), "demo"], capture_output=True, text=True, timeout=60,
        env={"PATH": str(tools), "TIRANTE_HOME": str(tmp_path / "home"), "HOME": str(tmp_path)},
    )  # fmt: skip
    assert done.returncode == 1
    assert "sudo apt-get update && sudo apt-get install -y --no-install-recommends" in done.stderr
    assert "mariadb-server" in done.stderr


def test_a_server_tells_what_its_threads_are_at(tmp_path: Path) -> None:
    code = "import os, signal; from tirante.server.app_main import tell_threads_to as tell; tell(os.environ['TIRANTE_LOG']); os.kill(os.getpid(), signal.SIGUSR1)"
    environment = {**os.environ, "TIRANTE_LOG": str(tmp_path / "server.log"), "PYTHONPATH": str(ROOT / "src")}
    subprocess.run([sys.executable, "-c", code], env=environment, check=True, timeout=60)
    assert "most recent call first" in (tmp_path / "threads.txt").read_text()
