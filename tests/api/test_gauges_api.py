"""Gauges as the page reads them: what is off is told with what to do, and no other machine is ever asked."""

from __future__ import annotations

import pytest
from flask.testing import FlaskClient

from tests.gauges.test_gauges import on
from tirante.core.errors import InputError
from tirante.gauges.read import PORTS, ports
from tirante.gauges.simulated import Simulated, serving


def test_a_gauge_that_is_off_is_told_with_what_to_do_and_other_machines_are_never_asked(client: FlaskClient) -> None:
    assert client.get("/api/gauges").json["gauges"] == sorted(PORTS)
    with on(serving(Simulated(sort="calliper", values=(10.0,)), 0)) as port:
        client.application.extensions["tirante"].gauges = {"calliper": port, "inclinometer": 1}
        found = client.post("/api/gauges/calliper/read", json={})
        assert found.json["figures"] == [{"name": "length", "value": 10.0, "unit": "mm", "said": "length 10.00 mm"}]
        off = client.post("/api/gauges/inclinometer/read", json={})
        assert (off.status_code, off.json["code"]) == (409, "no_answer")
        assert "./tirante gauge inclinometer" in off.json["message"]
        assert client.post("/api/gauges/none/read", json={}).status_code == 404
    client.application.extensions["tirante"].gauges = dict(PORTS)
    assert ports("") == PORTS
    assert ports("calliper:9001, scales:9002") == {"calliper": 9001, "scales": 9002}
    for wrong in ("calliper:x", "10.0.0.1", "calliper:10.0.0.1:80", "a:0", "a:70000"):
        with pytest.raises(InputError, match="TIRANTE_GAUGES"):
            ports(wrong)
