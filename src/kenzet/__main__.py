"""``python -m kenzet``: the app. A module of this name is not imported again by the processes that read files, so
that each of them costs no more than its reader."""

import sys

from kenzet.serve import main

if __name__ == "__main__":
    sys.exit(main())
