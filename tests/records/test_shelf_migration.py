"""The club's shelf begins with what stood on the shelves of single designs, each thing once."""

from importlib import import_module

from yonderstat.core.shelf import shelf_from_document

MODULE = {"watts": {"value": 85.0, "basis": "label"}, "cells": 36}
PANEL = {"id": "spare", "name": "Spare", "count": 2, "module": MODULE}
CONTROLLER = {"id": "old", "name": "Old", "kind": "pwm", "regulator": {"shows": "lamps"}}


def test_each_thing_is_taken_over_once() -> None:
    parts = import_module("yonderstat.records.migrations.versions.0009_shelf")._parts
    arrays = [
        {"shelf_modules": [PANEL], "shelf_controllers": [CONTROLLER]},
        {"shelf_modules": [PANEL]},
        {},
    ]
    found = parts(arrays)
    assert [(part["id"], part["kind"], part["name"], part["count"]) for part in found] == [
        ("part-1", "panel", "Spare", 2.0),
        ("part-2", "controller", "Old", 1.0),
    ]
    shelf_from_document({"format": "yonderstat-shelf", "version": 1, "parts": found, "outings": []})
