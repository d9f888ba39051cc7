"""Links with two pivots: tube, threaded or plain ends."""
