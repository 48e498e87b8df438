import { marked } from "marked";

const texts = import.meta.glob<string>("../../../../docs/guide/*.md", {
  query: "?raw",
  import: "default",
  eager: true,
});
const glossary = import.meta.glob<string>("../../../../docs/glossary.md", {
  query: "?raw",
  import: "default",
  eager: true,
});
const pictures = import.meta.glob<string>("../../../../docs/screenshots/*.png", {
  query: "?url",
  import: "default",
  eager: true,
});

export type Topic = { id: string; title: string; html: string };

/** A page of our own docs as HTML; its pictures are those the app ships. */
function topic(id: string, text: string): Topic {
  const title = /^# (.+)$/m.exec(text)?.[1] ?? id;
  const shown = text.replace(/\(\.\.\/screenshots\/([\w-]+\.png)\)/g, (whole, name: string) => {
    const url = Object.entries(pictures).find(([path]) => path.endsWith(`/${name}`))?.[1];
    return url ? `(${url})` : whole;
  });
  return { id, title, html: marked.parse(shown, { async: false }) };
}

/** The guide in the order of work, and the glossary. */
export const TOPICS: Topic[] = [
  ...Object.entries(texts)
    .sort(([one], [other]) => one.localeCompare(other))
    .map(([path, text]) => topic(/\d+-([\w-]+)\.md$/.exec(path)?.[1] ?? path, text)),
  ...Object.values(glossary).map((text) => topic("glossary", text)),
];
