"""What a plan holds, as a hash: equal plans share what is computed from them, whichever quilt they belong to."""

from __future__ import annotations

import hashlib
import json
from threading import Lock

from cachetools import LRUCache, cached

from kenzet.core.top.document import write
from kenzet.store.quilts import Kept


@cached(LRUCache(64), key=lambda kept: (kept.id, kept.revision), lock=Lock())
def plan_hash(kept: Kept) -> str:
    """Of everything in the plan but the quilt's name, on which no line and no route depends."""
    document = json.dumps(write(kept.quilt) | {"name": ""}, sort_keys=True)
    return hashlib.blake2b(document.encode(), digest_size=16).hexdigest()
