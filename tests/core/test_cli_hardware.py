"""The command line's hardware: what is found, with its standard, and what is refused."""

import json

from zygon.cli import main


def test_a_washer_is_found_with_its_standard(capsys):
    assert main(["hardware", "M6 washer", "--json"]) == 0
    found = json.loads(capsys.readouterr().out)
    # ISO 7089: 6.4 x 12 x 1.6 (from memory)
    assert found["unit"] == "mm" and found["found"][0] | {"mass": 0} == {
        "designation": "ISO 7089 - M6",
        "name": "Plain washer M6",
        "standard": "ISO 7089",
        "source": "memory",
        "size": "M6",
        "length": None,
        "mass": 0,
        "moves": "",
        "measures": {"inner": 6.4, "outer": 12.0, "height": 1.6},
    }
    assert main(["hardware", "washer", "--hole", "8.4"]) == 0
    assert capsys.readouterr().out.splitlines()[0].startswith("Plain washer M8 ")


def test_what_is_no_hardware_is_one_line_and_a_code(capsys):
    assert main(["hardware", "gizmo M5"]) == 2
    assert capsys.readouterr().err == "zygon: There is no hardware for 'gizmo M5'\n"
    assert main(["hardware", "gizmo M5", "--json"]) == 2
    assert json.loads(capsys.readouterr().err)["error"]["code"] == "no_hardware"
