"""Every benchmark has a short run: it runs to its end and prints its figures."""

import json

import pytest

from lab.bench import fit, measure
from ops import bench
from ops.phases import PhaseFailed


def test_fitting_runs_and_finds_no_fault(capsys):
    assert fit.main(["--clients", "60"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert told["clients"] == 60
    assert told["proposed"] > 40
    assert told["breaches"] == told["faults"] == 0


def test_measuring_runs_and_prints_its_tables(capsys):
    assert measure.run(["--count", "1", "--beside", "0", "--seconds", "3"]) == 0
    said = capsys.readouterr().out
    assert "One stream" in said
    assert "Peak memory" in said


def test_what_is_no_benchmark_is_said():
    with pytest.raises(PhaseFailed, match="no benchmark 'luck'"):
        bench.run(["luck"])


def test_its_help_names_every_benchmark(capsys):
    assert bench.run(["--help"]) == 0
    said = capsys.readouterr().out
    for name in ("measure", "live", "fit"):
        assert name in said
