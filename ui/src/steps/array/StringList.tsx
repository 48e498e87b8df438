import { useCatalogue } from "../../api/queries";
import { useKey } from "../../app/useKeys";
import { useDesk } from "../../kit/context";
import { StringFields } from "./StringFields";

/** The strings of the array, each with its panel, plane and controller. */
export function StringList() {
  const { view, editor } = useDesk();
  const { data: choices } = useCatalogue();
  const strings = view.document.array.strings;
  const add = () => {
    const taken = new Set(strings.map((string) => string.id));
    let number = strings.length + 1;
    while (taken.has(`string-${number}`)) number++;
    if (!choices) return;
    const value = {
      ...choices.firsts.string,
      id: `string-${number}`,
      azimuth_deg: view.report.sun.towards_deg,
    };
    editor.edit({ kind: "insert", path: ["array", "strings"], value });
  };
  useKey("n", add, [strings, choices]);
  return (
    <>
      {strings.length === 0 && (
        <p className="py-2 text-[14px]">
          No panels yet. Press <kbd className="kbd kbd-sm">n</kbd> to add some. One 100 W panel tilted to 65°
          gives about 15 Ah a day in a mid-latitude winter month.
        </p>
      )}
      <ul>
        {strings.map((string, index) => (
          <StringFields key={string.id} string={string} index={index} />
        ))}
      </ul>
      <button type="button" className="btn btn-sm btn-ghost mt-2 text-act" onClick={add}>
        New string <kbd className="opacity-70">n</kbd>
      </button>
    </>
  );
}
