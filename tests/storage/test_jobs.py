"""Drafts and revisions on the real database: nothing acknowledged is lost, nothing is written over."""

import uuid
from datetime import timedelta

import pymysql
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.conftest import NOW
from tirante.core.document.design import Design
from tirante.storage import catalogue as catalogue_store
from tirante.storage import jobs, revisions
from tirante.storage.pool import Credentials, Database


def new() -> str:
    return str(uuid.uuid4())


@pytest.fixture
def job(seeded: Database) -> str:
    job_id = new()
    with seeded.transaction() as connection:
        jobs.create_job(connection, job_id, Design(name="start"), NOW)
    return job_id


def save(
    database: Database, job_id: str, version: int, name: str, *, save_id: str | None = None, after: float = 1
) -> int:
    with database.transaction() as connection:
        return jobs.save_draft(
            connection, job_id, save_id or new(), version, Design(name=name), NOW + timedelta(seconds=after)
        )


def draft(database: Database, job_id: str) -> jobs.Draft:
    with database.transaction() as connection:
        return jobs.get_draft(connection, job_id)


def history(database: Database, job_id: str) -> list[revisions.RevisionRow]:
    with database.transaction() as connection:
        return revisions.list_revisions(connection, job_id)


def test_a_save_from_an_older_version_changes_nothing_and_brings_the_newer(seeded: Database, job: str) -> None:
    assert save(seeded, job, 1, "first") == 2
    with pytest.raises(jobs.Stale) as caught:
        save(seeded, job, 1, "late")
    assert caught.value.current.design.name == "first"
    assert draft(seeded, job).design.name == "first"


def test_a_repeated_save_answers_the_same_and_is_done_once(seeded: Database, job: str) -> None:
    save_id = new()
    assert save(seeded, job, 1, "once", save_id=save_id) == 2
    assert save(seeded, job, 1, "once", save_id=save_id) == 2
    assert save(seeded, job, 2, "then") == 3
    # even after others have saved, the late repeat does no harm
    assert save(seeded, job, 1, "once", save_id=save_id) == 2
    assert draft(seeded, job).design.name == "then"


def test_a_draft_left_idle_is_sealed_by_the_next_edit(seeded: Database, job: str) -> None:
    save(seeded, job, 1, "a", after=5)
    save(seeded, job, 2, "b", after=10)
    assert history(seeded, job) == []
    save(seeded, job, 3, "c", after=41)
    found = history(seeded, job)
    assert [(r.number, r.kind, r.parent) for r in found] == [(1, "sealed", None)]
    with seeded.transaction() as connection:
        kept = revisions.get_revision(connection, job, 1)
    assert kept is not None
    assert kept[1].name == "b"


def test_naming_and_issuing_make_revisions_in_line_and_sealing_again_does_not(seeded: Database, job: str) -> None:
    with seeded.transaction() as connection:
        first = revisions.seal(connection, jobs.get_draft(connection, job), NOW, kind="named", name="one")
    with seeded.transaction() as connection:
        assert revisions.seal(connection, jobs.get_draft(connection, job), NOW) == first
        issued = revisions.seal(connection, jobs.get_draft(connection, job), NOW, kind="issued", name="go")
    rows = history(seeded, job)
    assert [(r.number, r.parent, r.kind, r.reviewer) for r in rows] == [
        (issued, first, "issued", None),
        (first, None, "named", None),
    ]


def test_a_branch_stands_beside_the_draft(seeded: Database, job: str) -> None:
    with seeded.transaction() as connection:
        number = revisions.keep_as_branch(connection, job, None, "mine", Design(name="mine"), NOW)
    assert draft(seeded, job).design.name == "start"
    assert draft(seeded, job).based_on is None
    assert history(seeded, job)[0].number == number


@settings(max_examples=15, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(
    name=st.text(st.characters(codec="utf-8", exclude_categories=["Cc", "Cs", "Cn"]), min_size=1, max_size=80).filter(
        str.strip
    )
)
def test_any_name_a_person_can_type_is_kept_to_the_letter(name: str, seeded: Database) -> None:
    job_id = new()
    with seeded.transaction() as connection:
        jobs.create_job(connection, job_id, Design(name=name), NOW)
    assert draft(seeded, job_id).design.name == name
    with seeded.transaction() as connection:
        assert name in {row.name for row in jobs.list_jobs(connection)}


@pytest.mark.parametrize("name", ["'; DROP TABLE job; --", "\\' OR 1=1 -- ", "%s %(x)s", "𝔘𝔫𝔦 🚲", "<b>&amp;"])
def test_sql_and_markup_are_only_letters(name: str, seeded: Database) -> None:
    job_id = new()
    with seeded.transaction() as connection:
        jobs.create_job(connection, job_id, Design(name=name), NOW)
    assert draft(seeded, job_id).design.name == name


def test_an_error_in_the_middle_rolls_the_whole_unit_back(seeded: Database, job: str) -> None:
    with pytest.raises(ZeroDivisionError), seeded.transaction() as connection:
        jobs.save_draft(connection, job, new(), 1, Design(name="half"), NOW)
        raise ZeroDivisionError
    assert draft(seeded, job).version == 1


def test_the_application_s_user_may_touch_its_own_rows_and_no_more(credentials: Credentials) -> None:
    database = Database(credentials, connections=1)
    for statement in (
        "CREATE TABLE other (a INT)", "DROP TABLE job", "ALTER TABLE job ADD COLUMN x INT", "SELECT * FROM mysql.user",
        "CREATE DATABASE more", "SELECT LOAD_FILE('/etc/passwd') INTO @a", "GRANT ALL ON *.* TO `x`@`localhost`", "SELECT 1 INTO OUTFILE '/tmp/x'",
    ):  # fmt: skip
        with (
            pytest.raises((pymysql.err.OperationalError, pymysql.err.ProgrammingError, AssertionError)),
            database.transaction() as connection,
            connection.cursor() as cursor,
        ):
            cursor.execute(statement)
            if "LOAD_FILE" in statement:  # answers NULL without the privilege
                cursor.execute("SELECT @a AS a")
                assert cursor.fetchone()["a"] is not None  # type: ignore[index]
    database.close()


def test_rules_of_the_tables_hold_whatever_the_code_does(seeded: Database, job: str) -> None:
    for statement in (
        "UPDATE job SET name = ''",
        "UPDATE draft SET version = 0",
        "INSERT INTO save VALUES ('a', 'no-such-job', 1, NOW())",
    ):
        with (
            pytest.raises((pymysql.err.OperationalError, pymysql.err.IntegrityError)),
            seeded.transaction() as connection,
            connection.cursor() as cursor,
        ):
            cursor.execute(statement)


def test_seeds_load_once_and_leave_the_shop_s_rows_alone(seeded: Database) -> None:
    from tests.conftest import ROOT

    text = (ROOT / "data/catalogue/nuts.csv").read_text()
    with seeded.transaction() as connection:
        assert not catalogue_store.seed_once(connection, "nuts", text, NOW)
        before = catalogue_store.load_catalogue(connection).nuts
        own = before[0].model_copy(update={"height_mm": 9.99, "source": "measured in the shop"})
        assert catalogue_store.put_rows(connection, "nuts", [own], "shop") == (0, 1)
        # a newer file comes with an update: the shop's own row stays, the others follow
        assert catalogue_store.seed_once(connection, "nuts", text + "# newer\n", NOW)
        after = catalogue_store.load_catalogue(connection).nuts
        assert after[0] == own
        assert after[1:] == before[1:]
        catalogue_store.put_rows(connection, "nuts", [before[0]], "seed")
