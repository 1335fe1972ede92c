"""Photographs of sewn blocks by the stand-in of a camera: how true the measuring is, whether other blocks are refused, and how long it takes
against the bare call that makes the picture flat.
"""

from __future__ import annotations

from collections import Counter
from multiprocessing import Pool
from time import perf_counter

import cv2
import numpy as np

from kenzet.core.errors import BadValue
from kenzet.core.inspect.measure import measured
from kenzet.core.inspect.sides import frame_at
from kenzet.core.inspect.view import View, finest, flattened
from tests.photographed import LAID, block_at, errors_of, photographed

BLOCKS = [(0, "1-1"), (1, "1-2"), (1, "2-1"), (1, "side-1"), (2, "1-1")]
CLOTHS = {
    "plain, thread a quarter darker": (False, 0.25),
    "busy print, thread a quarter darker": (True, 0.25),
    "plain, thread that nearly matches": (False, 0.05),
}
SEEDS = 14
BENDS = (0.0, -0.02, 0.01)


def case(told):
    """Of one picture: by how much each side seen is out, how many there are, seen though not sewn, and the seconds."""
    (quilt, place), cloth, seed = told
    cv2.setNumThreads(1)
    busy, contrast = CLOTHS[cloth]
    photo, truth = photographed(
        block_at(quilt, place, busy), contrast=contrast, seed=seed, bend=BENDS[seed % 3], missing=2
    )
    begun = perf_counter()
    try:
        found = measured(photo, np.array(truth["clicked"]), LAID[quilt], place)
    except BadValue as refused:
        return cloth, None, refused.message, 0, 0.0, 0.0
    took = perf_counter() - begun
    errors, phantoms = errors_of(found.findings, truth)
    frame = frame_at(LAID[quilt], place)
    size = (frame.width, frame.height)
    begun = perf_counter()
    flattened(photo, View.of(np.array(truth["clicked"]), size, photo.shape[1::-1]), size, finest(size))
    return cloth, errors, len(found.findings), phantoms, took, perf_counter() - begun


def other(told):
    """Whether a picture of one block is refused as another."""
    (quilt, place), (its_quilt, its_place), seed = told
    cv2.setNumThreads(1)
    photo, truth = photographed(block_at(quilt, place, None), seed=seed)
    try:
        measured(photo, np.array(truth["clicked"]), LAID[its_quilt], its_place)
    except BadValue:
        return True
    return False


def main() -> None:
    cases = [(block, cloth, 1000 + seed) for cloth in CLOTHS for block in BLOCKS for seed in range(SEEDS)]
    with Pool(2) as pool:
        found = list(pool.imap(case, cases))
        pairs = [(a, b, 2000 + k) for a in BLOCKS for b in BLOCKS if a != b for k in range(2)]
        refused = Counter(pool.imap(other, pairs))
    print(
        f"photos: {len(cases)} rendered pictures of {len(BLOCKS)} blocks, lenses bent by {BENDS}, corners clicked 0.3 mm out"
    )
    for cloth in CLOTHS:
        mine = [one for one in found if one[0] == cloth]
        told = [one for one in mine if one[1] is not None]
        errors = np.array([error for one in told for error in one[1]])
        median, ninety, most = np.quantile(errors, [0.5, 0.9, 0.95])
        print(
            f"  {cloth}: {len(errors)} of {sum(one[2] for one in told)} sides seen, error median {median:.2f}, 90 % {ninety:.2f}, 95 % {most:.2f} mm; "
            f"over 1 mm {100 * np.mean(errors > 1):.2f} %; {sum(one[3] for one in told)} seen that are not sewn; {len(mine) - len(told)} pictures refused"
        )
    ratios = [one[4] / one[5] for one in found if one[5]]
    print(
        f"  one measuring: {np.median([one[4] for one in found if one[5]]):.1f} s, {np.median(ratios):.1f} of making the picture flat once"
    )
    print(f"  another block: {refused[True]} of {len(pairs)} pictures refused")


if __name__ == "__main__":
    main()
