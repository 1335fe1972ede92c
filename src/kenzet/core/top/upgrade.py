"""Older versions of the plan format, upgraded one version at a time."""

from __future__ import annotations

import copy
from typing import Any

_SIDES = ["top", "right", "bottom", "left"]


def upgraded(data: dict[str, Any]) -> dict[str, Any]:
    """``data`` in the newest version; not changed in place. Invalid values stay as they are."""
    found = data
    if found.get("version") == 1:
        found = _from_1(copy.deepcopy(found))
    if found.get("version") == 2:
        found = _from_2(copy.deepcopy(found))
    if isinstance(found, dict) and "edge" in found and "line_ends" not in found:
        found = {**found, "line_ends": "inside"}  # the only way there was
    return found


def _from_2(data: dict[str, Any]) -> dict[str, Any]:
    """Version 2 had one ruler, and neither machine nor thicknesses."""
    data["version"] = 3
    kit = data.get("kit")
    if isinstance(kit, dict):
        ruler = kit.pop("ruler", None)
        if ruler is not None:
            kit["rulers"] = {
                "straight-ruler": {"kind": "straight ruler", **ruler} if isinstance(ruler, dict) else ruler
            }
    return data


def _from_1(data: dict[str, Any]) -> dict[str, Any]:
    """Version 1 had drawn blocks only, one border, sashing in one piece and no margin at the edge."""
    data["version"] = 2
    for block in _dicts(data.get("blocks")):
        art = {key: block.pop(key) for key in ("grid", "patches") if key in block}
        block["art"] = {"kind": "drawn", **art}
    layout = data.get("layout")
    rows = columns = 0
    if isinstance(layout, dict):
        border = layout.pop("border", None)
        data["borders"] = [] if border is None else [border]
        if isinstance(layout.get("rows"), list) and layout["rows"]:
            rows = len(layout["rows"])
            columns = len(layout["rows"][0]) if isinstance(layout["rows"][0], list) else 0
    strips = [f"up-{r}-{k}" for k in range(columns + 1) for r in range(1, rows + 1)]
    strips += [f"level-{k}" for k in range(rows + 1)]
    for zone in _dicts(data.get("zones")):
        if zone.get("part") == "sashing" and zone.get("patches") == ["strips"]:
            zone["patches"] = strips
        if zone.get("part") == "border":
            zone["part"] = "border-1"
            if zone.get("patches") == ["frame"]:
                zone["patches"] = _SIDES
        if zone.get("fill") is None:
            zone["left_open"] = True
    data.setdefault("edge", "0 in")
    return data


def _dicts(values: Any) -> list[dict[str, Any]]:
    return [v for v in values.values() if isinstance(v, dict)] if isinstance(values, dict) else []
