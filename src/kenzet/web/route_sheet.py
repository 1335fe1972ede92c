"""The order and the ways for paper."""

from __future__ import annotations
