"""From the start of the process to the first painted window, against a bare PyQt6 window of the same size."""

import os
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from benchmarks.report import line, medians
from half_fold.core.store.demo import make_demo

_BARE = """
from PyQt6.QtWidgets import QApplication, QMainWindow, QLabel
application = QApplication([])
window = QMainWindow()
window.setCentralWidget(QLabel("A label"))
window.resize(1280, 800)
window.show()
window.grab()
"""
_OURS = """
import sys
from pathlib import Path
from half_fold.desk.theme.apply import dress, new_application
application = new_application("half-fold")
from half_fold.desk.application import Desk
dress(application)
window = Desk().open(Path(sys.argv[1]))
window.grab()
import os
os._exit(0)
"""


def _seconds(code: str, *words: str) -> float:
    environment = {**os.environ, "QT_QPA_PLATFORM": "offscreen"}
    begun = time.perf_counter()
    subprocess.run([sys.executable, "-c", code, *words], env=environment, check=True, stderr=subprocess.DEVNULL)
    return time.perf_counter() - begun


def run() -> None:
    with tempfile.TemporaryDirectory() as folder:
        job = make_demo(Path(folder))
        ours, theirs = medians(lambda: _seconds(_OURS, str(job)), lambda: _seconds(_BARE), 9)
    line("start", ours, theirs, "whole process to the painted demo; theirs: a bare PyQt6 window (bar: under 5)")
