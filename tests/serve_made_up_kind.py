"""The web server with one more kind of part than it ships with; `python -m tests.serve_made_up_kind`, started by the browser tests."""

from tests.made_up_kind import registered
from tirante.server.app_main import main

if __name__ == "__main__":
    with registered():
        raise SystemExit(main())
