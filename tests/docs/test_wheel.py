"""The wheel alone, with what it says it depends on and nothing else: it starts, draws, issues and verifies."""

from __future__ import annotations

import subprocess
import sys
import tempfile
import unittest
import urllib.request
import venv
from importlib.metadata import distribution
from pathlib import Path
from typing import ClassVar

from packaging.requirements import Requirement
from packaging.utils import canonicalize_name

ROOT = Path(__file__).parent.parent.parent


def needed(requirements: list[str], found: set[str]) -> set[str]:
    """The distributions that some requirements ask for, with what those ask for in turn."""
    for text in requirements:
        requirement = Requirement(text)
        name = canonicalize_name(requirement.name)
        extras = requirement.extras or {""}
        if requirement.marker and not any(requirement.marker.evaluate({"extra": each}) for each in extras):
            continue
        there = distribution(name)
        if not requirement.specifier.contains(there.version, prereleases=True):
            raise AssertionError(f"{there.version} of {name} is not {requirement.specifier}")
        if name not in found:
            found.add(name)
            needed([each for each in there.requires or () if "extra ==" not in each], found)
    return found


class WheelTest(unittest.TestCase):
    folder: ClassVar[Path]

    @classmethod
    def setUpClass(cls) -> None:
        """A fresh environment that has the wheel, and of what is installed here what the wheel asks for."""
        cls.folder = Path(cls.enterClassContext(tempfile.TemporaryDirectory()))
        build = [sys.executable, "-m", "hatchling", "build", "-t", "wheel", "-d", str(cls.folder)]
        subprocess.run(build, cwd=ROOT, check=True, capture_output=True)
        (wheel,) = cls.folder.glob("*.whl")
        venv.create(cls.folder / "env")
        pip = [sys.executable, "-m", "pip", "-q", "--disable-pip-version-check"]
        install = ["install", "--no-deps", "--no-index", str(wheel)]
        env = str(cls.folder / "env/bin/python")
        subprocess.run([*pip, "--python", env, *install], check=True, capture_output=True)
        (site,) = (cls.folder / "env/lib").glob("python3*/site-packages")
        (metadata,) = site.glob("humble_sum-*.dist-info/METADATA")
        lines = metadata.read_text(encoding="utf-8").splitlines()
        asked = [line.removeprefix("Requires-Dist: ") for line in lines if line.startswith("Requires-Dist: ")]
        for name in needed([each for each in asked if "extra ==" not in each], set()):
            there = distribution(name)
            for top in {file.parts[0] for file in there.files or ()} - {"..", "__pycache__"}:
                if not (site / top).exists():
                    (site / top).symlink_to(str(there.locate_file(top)))

    def run_in(self, *arguments: str) -> subprocess.CompletedProcess[str]:
        """What the command says, with nothing of this process in reach."""
        command = [str(self.folder / "env/bin/humble-sum"), *arguments]
        return subprocess.run(command, cwd=self.folder, env={}, capture_output=True, text=True)

    def test_what_is_bundled_goes_out_with_its_licence(self) -> None:
        (site,) = (self.folder / "env/lib").glob("python3*/site-packages/humble_sum")
        told = (site / "server/site/third-party.txt").read_text(encoding="utf-8")
        for name in ("react-dom ", "@tanstack/react-query ", "@fontsource/ibm-plex-serif "):
            self.assertIn(f"\n{name}", told)
        self.assertIn("SIL OPEN FONT LICENSE", told.upper())
        self.assertTrue((site / "core/locales/data/LICENSE").exists())

    def test_it_draws_issues_and_verifies(self) -> None:
        demo = (ROOT / "src/humble_sum/demo/lanternfish.json").read_bytes()
        (self.folder / "pack.json").write_bytes(demo)
        footed = self.run_in("foot", "pack.json", "--out", "footed.json")
        self.assertEqual(footed.stderr, "")
        drawn = self.run_in("render", "footed.json", "--place", "board/fares", "--to", "svg")
        self.assertIn("<svg", drawn.stdout, drawn.stderr)
        why = ("--why", "whole=Not known.", "--why", "places=As last year.")
        files = "html,pdf,exact,csv"
        wanted = ("--to", "x", "--by", "y", "--files", files, "--out", "issue.zip")
        issued = self.run_in("issue", "footed.json", *wanted, *why)
        self.assertEqual((issued.returncode, issued.stderr), (0, ""))
        verified = self.run_in("verify", "issue.zip")
        self.assertEqual((verified.returncode, verified.stderr), (0, ""))

    def test_the_demo_starts_and_draws_its_dashboards(self) -> None:
        command = [str(self.folder / "env/bin/humble-sum"), "demo", "--data", "data", "--port", "0"]
        with subprocess.Popen(command, cwd=self.folder, env={}, stdout=subprocess.PIPE, text=True) as server:
            try:
                assert server.stdout is not None
                address = next(word for word in server.stdout.readline().split() if word.startswith("http"))
                with urllib.request.urlopen(f"{address}api/packs") as answer:
                    self.assertIn(b"Lanternfish", answer.read())
                with urllib.request.urlopen(address) as page:
                    self.assertIn(b"<script", page.read())
            finally:
                server.terminate()


if __name__ == "__main__":
    unittest.main()
