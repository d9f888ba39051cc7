"""The web layer: parse, load, call the core, serialise. One module per concept; `app.create_app` puts them together."""
