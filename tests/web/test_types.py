"""Types of carts over the API."""


def names(told):
    return [one["name"] for one in told.json["types"]]


def test_types_are_renamed_put_together_split_and_found_anew(demo):
    told = demo.get("/api/types")
    before = names(told)
    assert sum(one["share"] for one in told.json["types"]) == 1.0
    assert names(demo.put("/api/types/1", json={"name": " Terrace "}))[1] == "Terrace"
    orders = {one["name"]: one["orders"] for one in demo.get("/api/types").json["types"]}
    together = demo.post("/api/types/0/together", json={"into": 1})
    assert names(together) == ["Terrace", *before[2:]]
    assert together.json["types"][0]["orders"] == orders["Terrace"] + orders[before[0]]
    assert len(names(demo.post("/api/types/0/split"))) == len(before)
    assert names(demo.post("/api/types")) == before
    for _ in range(4):
        demo.post("/api/undo")
    assert names(demo.get("/api/types")) == before


def test_forecasts_and_weights_go_by_the_types_there_are(demo):
    plan = demo.get("/api/plans").json["plans"][0]["plan"]
    demo.put("/api/types/0", json={"name": "Terrace"})
    rods = demo.post("/api/forecast", json=plan).json["rods"]["type"]
    assert [one["label"] for one in rods] == names(demo.get("/api/types"))
    window = {"first_day": "2027-03-01", "last_day": "2027-03-14"}
    only = {"segments": [{"of": "type", "name": one["label"], "times_bp": 0} for one in rods[1:]]}
    seen = demo.post("/api/mixes/seen", json={"terms": only, **window})
    assert seen.status_code == 200
    assert seen.json["goods"] / seen.json["orders"] != rods[0]["pays"]


def test_what_cannot_be_is_told(demo, empty):
    assert demo.put("/api/types/0", json={"name": demo.get("/api/types").json["types"][1]["name"]}).status_code == 422
    assert demo.put("/api/types/99", json={"name": "X"}).status_code == 404
    assert demo.post("/api/types/0/together", json={"into": 0}).status_code == 422
    assert demo.post("/api/types/0/together", json={"into": 99}).status_code == 404
    assert empty.post("/api/types").status_code == 409
    assert empty.get("/api/types").json["types"] == []
