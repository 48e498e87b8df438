/** What meters record, with its name and unit. */
export const CHANNELS: [string, string, string][] = [
  ["charge_share", "State of charge", "share"],
  ["volts", "Battery volts", "V"],
  ["charge_a", "Charging amps", "A"],
  ["load_a", "Load amps", "A"],
  ["box_c", "Box temperature", "°C"],
];
