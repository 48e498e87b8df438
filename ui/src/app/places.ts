/**
 * Where things are done, under the words people look for them by. The palette finds them, and the overview of a site
 * lists those that have a line of their own.
 */
export type Place = {
  name: string;
  /** Further words it is found by. */
  words: string;
  /** From the design's address; what begins with a slash is a page of its own. */
  to: string;
  /** What one gets there, for the overview. */
  told?: string;
};

export const PLACES: readonly Place[] = [
  {
    name: "Overview",
    words: "start home today jobs next site summary todo",
    to: "overview",
  },
  {
    name: "Check a reading",
    words:
      "meter multimeter volts voltage amps measure measured right wrong symptom fault find diagnose broken trouble problem shuts off cuts out weak signal never full flat dead dark fuse blows blown hot warm smell not charging",
    to: "check",
    told: "Type what your meter shows, or what is wrong. You see what it should be and what to measure next.",
  },
  {
    name: "Stretch the battery",
    words: "ration last longer save power switch off shed low cloudy today left hours remaining conserve",
    to: "rehearse?page=last",
    told: "How long what is left will last, and what to switch off first.",
  },
  {
    name: "Run an outage",
    words:
      "outage blackout scene rehearse rehearsal simulate storm power cut what would have saved it mains fail",
    to: "rehearse?page=outage",
    told: "Play a storm hour by hour, then see what would have saved it.",
  },
  {
    name: "How big must it be?",
    words:
      "size sizing battery map enough how many solar panels batteries big need cheapest money price required",
    to: "rehearse?page=enough",
    told: "Every size of panels and battery, run over ten weather years.",
  },
  {
    name: "If something breaks",
    words: "failure lost fault break spare single point redundancy controller dies",
    to: "rehearse?page=lost",
    told: "Lose each part in turn, and see how long the site still works.",
  },
  {
    name: "Train for an outage",
    words: "practise practice trainer training game exercise drill",
    to: "rehearse?page=practise",
    told: "You run the site through bad weather, one day at a time.",
  },
  {
    name: "Weather years",
    words: "years reliability availability chance probability odds simulation band uptime percent",
    to: "rehearse?page=years",
  },
  {
    name: "Battery: kind and size",
    words:
      "battery bank accumulator cells capacity chemistry lithium lifepo4 lead agm gel flooded amp-hours ah series parallel age",
    to: "store?page=battery",
  },
  {
    name: "Resting volts and charge",
    words: "state of charge soc resting voltage full half percent rest table how full",
    to: "store?page=volts",
  },
  {
    name: "Battery by month, and its years of life",
    words: "months years life cycles winter cold capacity wear replace replaced lifetime",
    to: "store?page=months",
  },
  {
    name: "Charging settings for this battery",
    words: "absorption float equalise bulk charge voltage setpoint temperature compensation",
    to: "store?page=charging",
  },
  {
    name: "Second battery",
    words: "second battery spare aux auxiliary layer starter two banks",
    to: "store?page=second",
  },
  {
    name: "Compare chemistries",
    words: "compare lead lithium chemistry better agm lifepo4 versus",
    to: "store?page=compare",
  },
  {
    name: "List of loads",
    words: "loads draw consumption appliances devices equipment amps watts power usage radios ledger day",
    to: "draw?page=loads",
  },
  {
    name: "Activity levels",
    words: "tempo quiet busy emergency level mode transmit share duty",
    to: "draw?page=levels",
  },
  {
    name: "Turn the power down",
    words: "transmit power watts low qrp output reduce hours gained turn down",
    to: "draw?page=levels",
  },
  {
    name: "Use by hour of day",
    words: "hours profile schedule night timer peak everything at once surge",
    to: "draw?page=when",
  },
  {
    name: "Inverter, converters and supply lines",
    words: "inverter converter supply line ac 230 120 volts usb step down buck 5 v 24 v 48 v rail dc",
    to: "draw?page=lines",
  },
  {
    name: "Import loads from a table",
    words: "import csv spreadsheet excel ods loads paste",
    to: "draw?page=import",
  },
  {
    name: "Import hours from a contact log",
    words: "import contact log adif contacts qso logbook duty cycle transmit share contest",
    to: "draw?page=import",
    told: "Your own contact log shows how much of the time you really transmit.",
  },
  {
    name: "Sun-hours by month",
    words: "sun hours insolation irradiation solar radiation month worst winter",
    to: "sun?page=hours",
  },
  {
    name: "Best tilt",
    words: "tilt angle direction azimuth orientation aim panels facing south north optimum",
    to: "sun?page=tilt",
  },
  {
    name: "Bad weather",
    words: "bad weather clouds days without sun autonomy dark spell overcast",
    to: "sun?page=weather",
  },
  {
    name: "Skyline",
    words: "skyline horizon shade shading trees snow dust dirt obstruction hill building",
    to: "sun?page=shade",
  },
  {
    name: "Temperatures",
    words: "temperature cold hot frost freezing air climate ambient",
    to: "sun?page=air",
  },
  {
    name: "Import a weather file",
    words: "import weather epw csv tmy typical year data source climate",
    to: "sun?page=data",
  },
  {
    name: "Panels and strings",
    words: "panel panels solar module array string series parallel watts roof",
    to: "array?page=strings",
  },
  {
    name: "Charge controllers",
    words: "controller mppt pwm regulator charge voltage window too high limit",
    to: "array?page=strings",
  },
  {
    name: "Panel and battery voltages",
    words: "voltage ladder voc open circuit cold limits match mismatch",
    to: "array?page=voltages",
  },
  {
    name: "Yield by month",
    words: "yield harvest production output energy month generation kwh",
    to: "array?page=yield",
  },
  {
    name: "Mains charger and generator",
    words:
      "charger mains generator alternator engine fuel genset shore wall grid wind vehicle dc-dc recharge time",
    to: "array?page=chargers",
  },
  {
    name: "Settings for the controller",
    words: "settings key program controller dip switch user setup absorption float volts values enter",
    to: "array?page=settings",
  },
  {
    name: "Strings from what I have",
    words: "strings on hand have own old used odd panels mixed different spare stores shelf combine",
    to: "array?page=on-hand",
    told: "The panels you already own, put together in the ways your controller takes.",
  },
  {
    name: "Rules of thumb",
    words: "rule thumb rules quick check sanity",
    to: "array?page=rules",
  },
  {
    name: "Volts at each radio",
    words: "voltage drop window radio low volts transmit distorts cuts out lost",
    to: "bus?page=volts",
  },
  {
    name: "Wires and fuses",
    words:
      "wire cable conductor gauge awg mm2 thickness size length run fuse breaker rating ampacity schedule lug short circuit",
    to: "bus?page=wires",
  },
  {
    name: "Diagram",
    words: "diagram drawing schematic one line wiring plan circuit picture",
    to: "bus?page=diagram",
  },
  {
    name: "Equipment box",
    words: "box enclosure cabinet heat ventilation hydrogen waterproof ip rating sun",
    to: "bus?page=box",
  },
  {
    name: "Connect and disconnect, in order",
    words: "order connect disconnect first safe sequence procedure earth ground grounding bond switch on",
    to: "bus?page=order",
  },
  {
    name: "Noise on the bands",
    words: "noise noisy rfi interference hash qrm buzz bands receiver survey s-meter quiet ferrite emi",
    to: "log?page=tests",
    told: "A survey, band by band: which charger or converter raises the noise.",
  },
  {
    name: "Parts and costs",
    words: "parts buy shopping list order price cost costs bill of materials money weight sum budget",
    to: "build?page=parts",
    told: "What to buy, and what it costs and weighs as far as known.",
  },
  {
    name: "From the club stores",
    words: "stores shelf have own club lend loan spare",
    to: "build?page=stores",
    told: "What the club already owns that fits this design.",
  },
  {
    name: "Printouts",
    words:
      "print paper pdf card wall report labels schedule committee wiring document export svg fuse map stickers",
    to: "build?page=printouts",
    told: "The wall card, the report, labels, and the cable and fuse schedule.",
  },
  {
    name: "Checklists",
    words: "checklist check list commission commissioning build steps inspect before first power tick",
    to: "build?page=checklists",
  },
  {
    name: "Trailer weight",
    words: "trailer weight balance hitch payload tongue axle heavy vehicle load kg lb",
    to: "build?page=trailer",
  },
  {
    name: "Log a reading",
    words: "log reading write down note logbook record enter volts today site visit",
    to: "log?page=readings",
  },
  {
    name: "Tests",
    words: "test capacity discharge measure load internal resistance procedure step by step hydrometer",
    to: "log?page=tests",
  },
  {
    name: "Plan against measured",
    words: "monitor record compare measured actual plan real file csv shunt history import meter log",
    to: "log?page=record",
  },
  {
    name: "Maintenance",
    words: "maintenance upkeep service due clean water top up calendar when remind",
    to: "log?page=upkeep",
  },
  {
    name: "Live",
    words:
      "live alarm alarms forecast now monitor controller device modbus sunspec telemetry remote online next days notify mail",
    to: "live",
  },
  {
    name: "Money saved by the sun",
    words: "money saved save savings bill payback pay back electricity worth it everyday",
    to: "brief",
    told: "Choose the purpose Everyday and type your price per kWh: the verdict says what is saved in a year.",
  },
  {
    name: "Where experts disagree",
    words: "experts disagree practitioners opinions schools debate grounding earth fuse floating argument",
    to: "store?page=experts",
    told: "Questions with more than one good answer, and what we use.",
  },
  {
    name: "Location",
    words: "place town city locator grid coordinates latitude longitude map where country time zone",
    to: "brief",
  },
  {
    name: "Kind, purpose and days wanted",
    words: "kind purpose goal days target outage length who vehicle repeater home budget brief",
    to: "brief",
  },
  {
    name: "Compare designs of this site",
    words: "compare designs a b beside difference side by side versus options",
    to: "compare",
  },
  {
    name: "Club stores",
    words: "club stores shelf parts spare own lend outing inventory stock",
    to: "/shelf",
  },
  { name: "Guide", words: "guide help how to manual glossary words meaning explain learn", to: "/guide" },
  { name: "All sites", words: "all sites home import open a design file new site add another list", to: "/" },
  { name: "About and backup", words: "about version licence backup archive restore sources", to: "/about" },
];

/** The ways on that the overview of a site shows. */
export const FRONT = PLACES.filter((place) => place.told !== undefined);
