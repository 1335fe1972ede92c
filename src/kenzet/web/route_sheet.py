"""The sewing order and the routes, for paper."""

from __future__ import annotations
