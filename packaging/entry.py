"""Where the packaged program begins."""

import multiprocessing
import sys

if __name__ == "__main__":
    multiprocessing.freeze_support()  # what is worked out beside the window begins here too
    from waltzmark.__main__ import main

    sys.exit(main())
