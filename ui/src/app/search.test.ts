import { describe, expect, it } from "vitest";
import fields from "./findable.json";
import { PLACES } from "./places";
import { search } from "./search";

const AMONG_FIRST = 4;
const nothing = () => {};
/** As in the palette: the places first, every field of the interface after them. */
const COMMANDS = [
  ...PLACES.map(({ name, words }) => ({ name, words, run: nothing })),
  ...fields.map(({ label }) => ({ name: label, run: nothing })),
];

/** What people type who do not know what we call it. */
const ASKED: Record<string, readonly string[]> = {
  Overview: ["home page of this site", "what should i do next", "today", "summary"],
  "Check a reading": [
    "multimeter",
    "my meter says",
    "is 12.1 volts right",
    "is this voltage right",
    "shuts off",
    "never full",
    "fuse blows",
    "find a fault",
    "troubleshoot trouble",
    "weak signal",
    "diagnose",
    "not charging",
    "what is wrong",
    "something is broken",
  ],
  "Stretch the battery": [
    "make it last longer",
    "ration",
    "how long will it last",
    "save power",
    "switch off first",
    "hours left",
    "it is cloudy today",
  ],
  "Run an outage": ["blackout", "power cut", "simulate a storm", "what would have saved it", "mains fail"],
  "How big must it be?": [
    "how many panels do i need",
    "how many batteries",
    "what size battery",
    "sizing",
    "is it big enough",
    "cheapest",
  ],
  "If something breaks": [
    "failure",
    "single point of failure",
    "what if the controller dies",
    "spare parts redundancy",
  ],
  "Train for an outage": ["training", "practice", "game", "exercise", "drill"],
  "Weather years": ["reliability", "availability", "chance", "uptime", "probability"],
  "Battery: kind and size": [
    "lithium",
    "lifepo4",
    "agm",
    "gel",
    "amp-hours",
    "accumulator",
    "battery age",
    "battery capacity",
  ],
  "Resting volts and charge": ["state of charge", "soc", "how full is it", "resting voltage"],
  "Battery by month, and its years of life": [
    "battery life",
    "cycles",
    "when must it be replaced",
    "winter capacity",
  ],
  "Charging settings for this battery": ["absorption voltage", "float", "equalise"],
  "Second battery": ["aux battery", "starter battery", "two banks"],
  "Compare chemistries": ["lead or lithium", "agm versus lifepo4"],
  "List of loads": ["consumption", "appliances", "equipment", "power usage"],
  "Activity levels": ["tempo", "busy and quiet", "emergency level"],
  "Turn the power down": ["qrp", "transmit power", "reduce output"],
  "Use by hour of day": ["night", "timer", "surge", "peak"],
  "Inverter, converters and supply lines": ["inverter", "230 volts", "usb", "buck converter", "24 v"],
  "Import loads from a table": ["spreadsheet", "excel", "csv"],
  "Import hours from a contact log": ["adif", "qso", "contest log", "logbook"],
  "Sun-hours by month": ["insolation", "solar radiation", "peak sun hours"],
  "Best tilt": ["angle", "azimuth", "which direction", "orientation"],
  "Bad weather": ["clouds", "days without sun", "autonomy"],
  Skyline: ["trees", "shading", "horizon", "snow", "dust"],
  Temperatures: ["frost", "cold", "climate"],
  "Import a weather file": ["epw", "tmy", "weather data"],
  "Panels and strings": ["solar panels", "array", "solar"],
  "Charge controllers": ["mppt", "pwm", "regulator", "charge controller"],
  "Panel and battery voltages": ["open circuit voltage", "voc cold", "voltage ladder"],
  "Yield by month": ["harvest", "solar production", "kwh"],
  "Mains charger and generator": [
    "generator",
    "alternator",
    "genset",
    "shore power",
    "fuel",
    "how long to recharge",
  ],
  "Settings for the controller": ["dip switches", "program the controller", "user settings"],
  "Strings from what I have": [
    "old panels",
    "mixed panels",
    "panels i own",
    "different panels",
    "odd panels",
  ],
  "Rules of thumb": ["rule of thumb"],
  "Volts at each radio": ["voltage drop", "radio cuts out", "low volts on transmit"],
  "Wires and fuses": [
    "awg",
    "wire gauge",
    "cable size",
    "which fuse",
    "breaker",
    "ampacity",
    "conductor",
    "mm2",
  ],
  Diagram: ["schematic", "drawing", "wiring plan"],
  "Equipment box": ["enclosure", "hydrogen", "ventilation", "waterproof"],
  "Connect and disconnect, in order": ["which do i connect first", "disconnect order", "earth", "grounding"],
  "Noise on the bands": ["rfi", "qrm", "hash", "interference", "ferrite", "noisy charger", "s-meter"],
  "Parts and costs": ["shopping list", "price", "what does it cost", "bill of materials", "budget"],
  "Money saved by the sun": ["money saved", "electricity bill", "payback"],
  "From the club stores": ["what we have in stock at the club", "club shelf"],
  Printouts: ["pdf", "wall card", "wiring card", "labels", "report for the committee", "print"],
  Checklists: ["check list", "before first power", "commissioning"],
  "Trailer weight": ["hitch", "payload", "axle", "tongue weight"],
  "Log a reading": ["enter a reading", "write down volts", "note"],
  Tests: ["capacity test", "discharge test", "hydrometer", "internal resistance"],
  "Plan against measured": ["monitor file", "shunt log", "compare with measured", "history file"],
  Maintenance: ["upkeep", "service due", "top up water", "calendar"],
  Live: ["modbus", "sunspec", "telemetry", "alarms", "forecast", "remote monitoring"],
  "Where experts disagree": ["opinions", "debate", "practitioners"],
  Location: ["grid locator", "time zone", "town", "latitude", "map"],
  "Compare designs of this site": ["side by side", "difference between a and b"],
  "Club stores": ["inventory", "stock", "outing", "lend"],
  Guide: ["manual", "glossary", "help"],
  "All sites": ["new site", "open a design file"],
  "About and backup": ["backup", "restore", "licence", "version"],
};

describe("the palette", () => {
  const cases = Object.entries(ASKED).flatMap(([name, phrases]) => phrases.map((phrase) => [phrase, name]));

  it("is asked in at least 150 ways", () => {
    expect(cases.length).toBeGreaterThanOrEqual(150);
    expect(Object.keys(ASKED).filter((name) => !PLACES.some((place) => place.name === name))).toEqual([]);
  });

  it.each(cases)("finds “%s” under %s", (phrase = "", name = "") => {
    const found = search(COMMANDS, phrase, AMONG_FIRST).map((command) => command.name);
    expect(found).toContain(name);
  });

  it("says nothing of what it does not know, and finds a field by its name first", () => {
    expect(search(COMMANDS, "zzzz", AMONG_FIRST)).toEqual([]);
    expect(search(COMMANDS, "Chemistry", AMONG_FIRST)[0]?.name).toContain("hemistr");
  });
});

const SHEETS = import.meta.glob<string>("../steps/*/*Sheet.tsx", {
  query: "?raw",
  import: "default",
  eager: true,
});

describe("places", () => {
  it.each(PLACES.filter(({ to }) => to.includes("?page=")))(
    "$name has a part of its own at $to",
    ({ to }) => {
      const [step = "", page = ""] = to.split("?page=");
      const name = `${step.charAt(0).toUpperCase()}${step.slice(1)}`;
      expect(SHEETS[`../steps/${step}/${name}Sheet.tsx`]).toContain(`id: "${page}"`);
    },
  );
});
