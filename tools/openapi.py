"""Write docs/openapi.json from the routes, and the design's JSON Schema; the page's types are made from the first."""

from __future__ import annotations

import json
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT / "src"))

import tirante.api.app  # noqa: E402, F401 - registers the routes
from tirante.api.routing import openapi_text  # noqa: E402
from tirante.core.document.design import Design  # noqa: E402

if __name__ == "__main__":
    (ROOT / "docs/openapi.json").write_text(openapi_text())
    schema = json.dumps(Design.model_json_schema(), indent=2, sort_keys=True, ensure_ascii=False)
    (ROOT / "docs/design.schema.json").write_text(schema + "\n")
