"""The server in a process of its own, by a clock that a test moves by writing a file.

python clocked_server.py DATA_FILE CLOCK_FILE PORT
"""

import sys
from pathlib import Path

from finebatch.demo.load import load
from finebatch.settings import Settings
from finebatch.web.app import create_app
from finebatch.web.server import server_of

if __name__ == "__main__":
    data_file, clock_file, port = Path(sys.argv[1]), Path(sys.argv[2]), int(sys.argv[3])

    def clock() -> int:
        return int(clock_file.read_text())

    app = create_app(Settings(data_file=data_file, plan_seconds=0.5), clock)
    load(app.state.database, clock())
    server_of(app, port).run()
