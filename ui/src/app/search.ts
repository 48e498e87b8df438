import type { Command } from "./Overlays";

/** Words of a question that say nothing about what is looked for. */
const FILLER = new Set(
  [
    "a an the my of on in at to for is are do does i we it can",
    "how what where when which will with and or me need want would should",
  ].flatMap((words) => words.split(" ")),
);

const bare = (word: string) => (word.length > 3 && word.endsWith("s") ? word.slice(0, -1) : word);
const wordsOf = (text: string) =>
  text
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean)
    .map(bare);

/** What is worth looking for in a text; where it is filler alone, all of it. */
function asked(text: string): string[] {
  const all = text.toLowerCase().split(/\s+/).filter(Boolean);
  const telling = all.filter((word) => !FILLER.has(word));
  return (telling.length > 0 ? telling : all).map(bare);
}

const SAME = 5;
const BEGINS = 3;
const WITHIN = 1;
const WHOLE_NAME = 6;
/** What scores less than this share of the best is not shown. */
const LEAST_SHARE = 0.5;

type Read = { command: Command; words: readonly string[]; text: string };

function readOf(command: Command): Read {
  const text = `${command.name} ${command.words ?? ""}`.toLowerCase();
  return { command, words: wordsOf(text), text };
}

function wordScore(word: string, { words, text }: Read): number {
  if (words.includes(word)) return SAME;
  if (words.some((own) => own.startsWith(word))) return BEGINS;
  return text.includes(word) ? WITHIN : 0;
}

/**
 * What a text finds, best first. A word counts the more, the fewer things it is found in; among equals the order given
 * stands.
 */
export function search(commands: readonly Command[], text: string, most: number): Command[] {
  const words = asked(text);
  if (words.length === 0) return commands.slice(0, most);
  const typed = text.trim().toLowerCase();
  const all = commands.map(readOf);
  const scores = words.map((word) => {
    const found = all.map((read) => wordScore(word, read));
    const rarity = Math.log(1 + all.length / Math.max(1, found.filter((score) => score > 0).length));
    return found.map((score) => score * rarity);
  });
  const ranked = all
    .map(({ command }, index) => {
      const whole = command.name.toLowerCase() === typed ? WHOLE_NAME : 0;
      return { command, score: scores.reduce((sum, of) => sum + (of[index] ?? 0), whole) };
    })
    .filter(({ score }) => score > 0)
    .sort((one, other) => other.score - one.score);
  const least = LEAST_SHARE * (ranked[0]?.score ?? 0);
  return ranked
    .filter(({ score }) => score >= least)
    .slice(0, most)
    .map(({ command }) => command);
}
