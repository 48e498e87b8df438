"""The rehearsal as a plain Python loop, from the words of docs/decisions, apart from the kernel."""

from typing import Any

from yonderstat.core.rehearse import Hours, Rules


def resting_volts(table: Any, share: float) -> float:
    """Straight between the points of an even table."""
    last = len(table) - 1
    place = max(0.0, min(1.0, share)) * last
    low = min(int(place), last - 1)
    return float(table[low] * (low + 1 - place) + table[low + 1] * (place - low))


class Loop:
    """A station that is stepped through its hours."""

    def __init__(self, rules: Rules, rest_v: Any, start_ah: float) -> None:
        self.rules, self.rest_v = rules, rest_v
        self.charge, self.reserve, self.owed = start_ah, rules.reserve_ah, 0.0
        self.backup_left_h, self.dark_h = rules.backup_h_per_day, 0
        self.tripped = self.backup_runs = False
        self.off = {"useful": False, "comfort": False}

    def share(self, floor: float) -> float:
        """Of what may be used."""
        return (self.charge - floor) / (self.rules.full_ah - floor)

    def idle(self, source: float) -> tuple[float, float]:
        """Leakage and self-consumption, from the sun if there is any; what is lost, what sun is
        left."""
        rules = self.rules
        leaked = self.charge * rules.leak_per_h
        by_sun = min(rules.idle_a, source)
        by_bank = min(rules.idle_a - by_sun, max(0.0, self.charge - leaked))
        self.charge = self.charge - leaked - by_bank
        return leaked + by_bank + by_sun, source - by_sun

    def wants(self, floor: float, source: float, backup: float, load: Any) -> list[float]:
        """What each tier asks for once shedding and cut-offs have had their say."""
        rules, share = self.rules, self.share(floor)
        for tier, threshold in (("useful", rules.shed_useful), ("comfort", rules.shed_comfort)):
            back = threshold + (rules.hysteresis if self.off[tier] else 0.0)
            self.off[tier] = threshold > 0 and share < back
        if self.tripped and self.dark_h >= rules.hand_h:
            lively = 0 < load[0] <= max(source, backup)
            self.tripped = not (share >= rules.back_share or lively)
        if self.tripped:
            return [0.0, 0.0, 0.0]
        return [
            load[0],
            0.0 if self.off["useful"] else load[1],
            0.0 if self.off["comfort"] else load[2],
        ]

    def backup(self, floor: float, backup: float, new_day: bool) -> float:
        """What a backup gives if it runs: from a low share up to a high one, so many hours a
        day."""
        rules, share = self.rules, self.share(floor)
        if rules.backup_h_per_day <= 0:
            return 0.0
        if new_day:
            self.backup_left_h = rules.backup_h_per_day
        threshold = max(rules.backup_on, rules.backup_off if self.backup_runs else 0.0)
        self.backup_runs = backup > 0 and self.backup_left_h > 0 and share < threshold
        if self.backup_runs:
            self.backup_left_h -= 1
            return backup
        return 0.0

    def hour(
        self,
        source: float,
        backup: float,
        load: Any,
        floor: float,
        end: float,
        locked: int,
        new_day: bool,
    ) -> list[float]:
        """One hour; what it tells, in the kernel's columns."""
        rules = self.rules
        lost, source = self.idle(source)
        asked = self.wants(floor, source, backup, load)
        wanted, was_tripped = sum(asked), self.tripped
        share_before = self.share(floor)
        given = self.backup(floor, backup, new_day)
        direct = min(source, wanted)
        helped = min(given, wanted - direct)
        lacking = wanted - direct - helped
        held, whole = max(0.0, self.charge - floor), max(0.0, self.charge - end)
        sagging = resting_volts(self.rest_v, self.charge / rules.full_ah) - lacking * (
            rules.ohm + rules.bus_ohm
        )
        if rules.low_v > 0 and sagging < rules.low_v:
            held = whole = 0.0
        from_bank = min(held, lacking)
        from_reserve = min(self.reserve, lacking - from_bank)
        # Under the floor the bank goes on once the layers are spent.
        from_bank += min(lacking - from_bank - from_reserve, max(0.0, whole - held))
        missed = lacking - from_bank - from_reserve
        part = 0.0 if was_tripped else 1.0
        if missed > 1e-12:
            part, self.tripped = 1 - missed / wanted, True
        self.charge -= from_bank
        self.reserve -= from_reserve
        waited = 0.0
        if rules.owed_most_ah > 0:
            self.owed += load[3]
            if not self.tripped and share_before >= rules.defer_share:
                waited = min(self.owed, source - direct)
            self.owed = min(rules.owed_most_ah, self.owed - waited)
        spare = source - direct + given - helped - waited
        heat = rules.heater_a if locked == 1 and 0 < rules.heater_a < spare else 0.0
        spare -= heat
        into = 0.0
        if locked in (0, 3) or heat > 0:
            missing = rules.full_ah - self.charge
            most = (
                rules.most_charge_a
                if locked == 0
                else min(rules.most_charge_a, rules.slow_charge_a)
            )
            into = max(
                0.0, min(spare, most, missing / rules.efficiency, rules.accept_per_h * missing)
            )
        self.charge += into * rules.efficiency
        layer = 0.0
        if rules.reserve_charge_a > 0:
            room = (rules.reserve_ah - self.reserve) / rules.reserve_efficiency
            layer = max(0.0, min(spare - into, rules.reserve_charge_a, room))
            self.reserve += layer * rules.reserve_efficiency
        self.dark_h = self.dark_h + 1 if self.tripped else 0
        used = direct + helped + waited + heat + into + layer
        by_sun = min(used, source)
        return [
            self.charge,
            load[0] * part,
            (0.0 if self.off["useful"] else load[1]) * part,
            (0.0 if self.off["comfort"] else load[2]) * part,
            waited,
            by_sun,
            used - by_sun,
            into,
            from_bank,
            self.reserve,
            layer,
            lost + heat,
            float(self.tripped),
        ]


def plain_hours(rules: Rules, hours: Hours, start_ah: float) -> list[list[float]]:
    """The first year's hours through the loop. Of the sources' column the controllers' own share is
    left out."""
    loop = Loop(rules, hours.rest_v.tolist(), start_ah)
    sources = (hours.fixed_a + hours.panels_a[0]).tolist()
    rows = zip(
        sources,
        hours.backup_a.tolist(),
        hours.load_a.tolist(),
        hours.floor_ah[0].tolist(),
        hours.end_ah[0].tolist(),
        hours.locked[0].tolist(),
        hours.new_day.tolist(),
        strict=True,
    )
    return [loop.hour(*row) for row in rows]
