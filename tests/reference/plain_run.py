"""A run in plain Python: small fixed steps, events of its own, nothing of the engine's code.

By the method page: P = V I, V = E(charge) - R I, quadratic inverter loss, Peukert by the mean
current, cut-outs that return, starts through their dip, capacity and resistance by the hour's
temperature. Only tables of figures are shared.
"""

import math
from bisect import bisect_right
from collections.abc import Iterator
from typing import Any

import numpy as np

STEP_H = 1 / 60
RETURN_H = 0.05
MEAN_H = 2.0


class PlainRun:
    """One bank, an inverter and a converter on it, loads with their times."""

    def __init__(self, document: Any, curve: Any, cold: Any, ohms: Any, peukert: float) -> None:
        self.bank, self.loads = document["stores"][0], document["loads"]
        self.stages = {x["id"]: x for x in document["stages"] if x["rail"] == "bank"}
        self.hourly = document["setting"]["ambient_by_hour"]
        self.battery = self.bank["battery"]
        self.x, self.v = (column.tolist() for column in np.array(curve).T)
        self.cold = np.interp(self.hourly, *np.array(cold).T).tolist()
        self.ohms, self.k = np.interp(self.hourly, *np.array(ohms).T).tolist(), peukert
        self.ah = self.battery["ah"] * self.bank["parallel"]
        self.charge, self.mean, self.seen, self.volts = 1.0, -1.0, 0.0, math.inf
        self.out: dict[str, float] = {}
        self.back: dict[str, float] = {}
        self.locked: set[str] = set()
        self.waits: set[str] = set()
        self.started: set[str] = set()
        self.dead: set[str] = set()
        # What charges the bank: watts at its posts, and when.
        self.link = document.get("plain_link")
        if self.link is not None:
            self.rising = [list(column) for column in zip(*self.link["curve"], strict=True)]
        self.charges, self.frozen = False, False
        self.stops: dict[str, float] = {}
        self.given_wh = 0.0

    def open_v(self) -> float:
        return self.along(self.x, self.v)

    def along(self, x: list[float], v: list[float]) -> float:
        """Volts by a curve of one cell at the charge that it has."""
        k = min(max(bisect_right(x, self.charge), 1), len(x) - 1)
        share = (self.charge - x[k - 1]) / (x[k] - x[k - 1])
        return float((v[k - 1] + (v[k] - v[k - 1]) * share) * self.battery["cells"])

    def watts(self, load: Any, hour: float) -> float:
        """What a load takes at a time of day; 0 when it is off."""
        for span in load["when"]["windows"]:
            length = (span["to_h"] - span["from_h"]) % 24
            since = (hour - span["from_h"]) % 24
            if since < length - 1e-9:
                if load["cycle_min"] is None:
                    return float(load["demand"]["watts"] * load["duty"])
                cycle = load["cycle_min"] / 60
                on = since % cycle < load["duty"] * cycle - 1e-9
                return float(load["demand"]["watts"]) if on else 0.0
        return 0.0

    def drawn(self, stage: Any, given: float) -> float:
        """Power into a stage for what it gives."""
        if stage["kind"] == "converter":
            return float(stage["quiescent_w"] + given / stage["full_load"]["efficiency"])
        rated, p0 = stage["continuous_w"], stage["idle_w"]
        points = []
        for end in (stage["part_load"], stage["full_load"]):
            given_w = end["load_share"] * rated
            points.append((given_w, (given_w / end["efficiency"] - p0) / given_w))
        (low_w, low), (high_w, high) = points
        k2 = (high - low) / (high_w - low_w)
        return float(p0 + (low - k2 * low_w) * given + k2 * given * given)

    def takes(self, ohm: float) -> float:
        """Watts it takes at the volts its charger holds: none full or in frost."""
        held = self.link["hold_v"]
        into = (held - self.own_v()) / self.charge_ohm(ohm)
        return 0.0 if self.frozen or into <= self.link["tail_a"] else float(held * into)

    def brings(self, drawn_w: float, volts: float, takes: float) -> float:
        """What its charger brings at the posts beside what is drawn there.

        Constant current, then constant volts.
        """
        return float(min(self.link["watts"], self.link["most_a"] * volts, drawn_w + takes))

    def own_v(self) -> float:
        """Volts of its own while it is charged; lead-acid has those at rest."""
        return self.open_v() if self.link["accepts_per_h"] else self.along(*self.rising)

    def charge_ohm(self, ohm: float) -> float:
        """Lead-acid takes no more amps than Ah are missing."""
        if not self.link["accepts_per_h"]:
            return ohm
        missing = self.link["accepts_per_h"] * self.ah * max(1 - self.charge, 1e-9)
        return float(max(ohm, (self.link["hold_v"] - self.open_v()) / missing))

    def posts_v(self, amps: float, open_v: float, ohm: float) -> float:
        """Volts at the posts; while it is charged they rise from those at rest to its own."""
        if amps >= 0 or self.link is None:
            return open_v - ohm * amps
        share = min(-amps / (0.02 * self.ah), 1.0)
        rise = (self.own_v() - open_v) * share
        return float(open_v + rise - self.charge_ohm(ohm) * amps)

    def branches(self, watts: dict[str, float]) -> Iterator[tuple[str, float, float]]:
        """Each branch at the bank: who, watts, resistance."""
        for load in self.loads:
            if load["rail"] == "bank" and watts[load["id"]]:
                yield load["id"], watts[load["id"]], load["cable_mohm"] / 1000
        for name, stage in self.stages.items():
            if name not in self.dead and name not in self.out and name not in self.locked:
                mine = sum(watts[x["id"]] for x in self.loads if x["rail"] == name)
                yield name, self.drawn(stage, mine), stage["cable_mohm"] / 1000

    def settle(self, watts: dict[str, float], ohm: float) -> tuple[float, dict[str, float]]:
        """Amps of the bank, and what arrives at each branch."""
        # From where it stood last.
        open_v = self.open_v()
        volts = min(self.volts, open_v)
        branches = list(self.branches(watts))
        takes = self.takes(ohm) if self.charges else 0.0
        amps = 0.0
        for _ in range(200):
            found = [self.amps(volts, power, r) for _, power, r in branches]
            amps = sum(found)
            if self.charges:
                amps -= self.brings(amps * volts, volts, takes) / volts
            new = self.posts_v(amps, open_v, ohm)
            if abs(new - volts) < 1e-7:
                break
            # Half the way: amps and volts pull at each other.
            volts = 0.5 * (new + volts)
        self.volts = volts
        return amps, {
            name: volts - i * r for (name, _, r), i in zip(branches, found, strict=True)
        } | {"bank": volts}

    @staticmethod
    def amps(volts: float, power: float, ohm: float) -> float:
        if not ohm:
            return power / volts
        inside = volts * volts - 4 * ohm * power
        # Volts that collapse are far below every cut-out: as if half of them were lost.
        return (volts - math.sqrt(max(inside, 0.0))) / (2 * ohm)

    def cut_v(self, name: str) -> float:
        if name in self.stages:
            return float(self.stages[name]["accepts"]["least_v"])
        window = next(x for x in self.loads if x["id"] == name)["window"]
        return float(window["cut_out_v"]) if window else 0.0

    def served(self, hour: float) -> dict[str, float]:
        """Watts of each load as things stand."""
        found = {}
        for load in self.loads:
            name, rail = load["id"], load["rail"]
            off = {name, rail} & (set(self.out) | self.locked | self.waits | self.dead)
            found[name] = 0.0 if off else self.watts(load, hour)
        return found

    def run(self, most_h: float) -> float:
        """Run until the bank meets its reserve; gives when."""
        step = 0
        last: dict[str, bool] = {}
        while step * STEP_H < most_h:
            hours = step * STEP_H
            hour, now = hours % 24, int((hours + 1e-9) % 24)
            ohm = self.battery["resistance_mohm"] / 1000 / self.bank["parallel"]
            ohm *= self.ohms[now]
            least = 1 - self.cold[now] * (1 - self.bank["reserve"])
            wants = {x["id"]: self.watts(x, hour + 1e-9) > 0 for x in self.loads}
            self.charges = self.link is not None and self.engine_runs(hour + 1e-9)
            self.frozen = self.hourly[now] < 0 and self.battery["chemistry"] != "flooded"
            if wants != last:
                self.locked.clear()
                self.waits -= {name for name, on in wants.items() if not on}
                self.started &= {name for name, on in wants.items() if on}
            last = wants
            if self.charge <= least:
                for load in self.loads:
                    self.stops.setdefault(load["id"], hours)
                return hours
            watts = self.steady(hours, hour + 1e-9, ohm)
            for name, on in wants.items():
                if on and not watts[name]:
                    self.stops.setdefault(name, hours)
            # By the middle of the step.
            amps, _ = self.settle(watts, ohm)
            begin, mean = self.charge, amps if self.mean < 0 else self.mean
            costs = self.costs(mean) if amps > 0 else self.stays()
            self.charge = min(begin - 0.5 * STEP_H * amps * costs / self.ah, 1.0)
            amps, _ = self.settle(watts, ohm)
            middle_v = self.open_v()
            self.charge = begin
            self.move(amps, middle_v)
            step += 1
        return most_h

    def engine_runs(self, hour: float) -> bool:
        """Whether the engine that charges it runs at a time of day."""
        span = self.link["span"]
        return bool((hour - span["from_h"]) % 24 < (span["to_h"] - span["from_h"]) % 24)

    def stays(self) -> float:
        """Share of the Ah put in that stays."""
        return float(self.link["ah_efficiency"]) if self.link else 1.0

    def costs(self, mean_a: float) -> float:
        """Peukert 1897, over the 20-hour rate."""
        return float(max(mean_a / (self.ah / 20), 1.0) ** (self.k - 1))

    def move(self, amps: float, open_v: float) -> None:
        """A step by the current and the volts in its middle."""
        self.seen += STEP_H
        drawn = max(amps, 0.0)
        costs = self.costs(drawn if self.mean < 0 else self.mean) if amps > 0 else self.stays()
        self.given_wh += open_v * amps * costs * STEP_H
        self.charge = min(self.charge - amps * costs * STEP_H / self.ah, 1.0)
        rate = max(-math.expm1(-STEP_H / MEAN_H), STEP_H / self.seen)
        self.mean = drawn if self.mean < 0 else self.mean + (drawn - self.mean) * rate

    def steady(self, hours: float, hour: float, ohm: float) -> dict[str, float]:
        """Take off what gives up, let back what may, start what begins."""
        for _ in range(40):
            watts = self.served(hour)
            _, arrives = self.settle(watts, ohm)
            low = [n for n in arrives if n != "bank" and arrives[n] < self.cut_v(n)]
            if low:
                name = min(low, key=lambda n: arrives[n] / self.cut_v(n))
                self.give_up(name, hours)
                continue
            back = [
                n
                for n, h in self.out.items()
                if hours >= h + RETURN_H - 1e-9 and arrives["bank"] >= self.cut_v(n) * 1.05
            ]
            if back:
                for name in back:
                    del self.out[name]
                    self.back[name] = hours
                continue
            if not self.starts(watts, hours, ohm):
                return watts
        return watts

    def give_up(self, name: str, hours: float) -> None:
        if hours - self.back.get(name, -1e9) < RETURN_H:
            self.locked.add(name)
        else:
            self.out[name] = hours

    def starts(self, watts: dict[str, float], hours: float, ohm: float) -> bool:
        """Try what begins to run; tells whether something gave up."""
        for load in self.loads:
            name, factor = load["id"], load["start"].get("factor", 1.0)
            if not watts[name] or name in self.started or factor == 1.0:
                continue
            self.started.add(name)
            more = watts | {name: watts[name] + load["demand"]["watts"] * (factor - 1)}
            stage = self.stages[load["rail"]]
            mine = sum(more[x["id"]] for x in self.loads if x["rail"] == load["rail"])
            _, arrives = self.settle(more, ohm)
            gone = [n for n in arrives if n != "bank" and arrives[n] < self.cut_v(n)]
            room = (2 * stage["continuous_w"] - mine) / (2 * stage["continuous_w"])
            rooms = {n: arrives[n] / self.cut_v(n) - 1 for n in gone}
            if room < -1e-6 and room < min(rooms.values(), default=0.0):
                self.dead.add(load["rail"])
            elif gone:
                self.give_up(min(gone, key=lambda n: rooms[n]), hours)
            else:
                continue
            self.waits.add(name)
            self.started.discard(name)
            return True
        return False
