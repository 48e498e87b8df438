import { useKey } from "../../app/useKeys";
import { useDesk } from "../../kit/context";
import { StringFields } from "./StringFields";

function newString(id: string, latitude: number) {
  return {
    id,
    name: "New string",
    module: { watts: { value: 100, basis: "default" }, cells: 36, v_mp: null },
    series: 1,
    parallel: 1,
    mount: "fixed",
    aims_per_day: 3,
    fitted: "rack",
    tilt_deg: 30,
    azimuth_deg: latitude < 0 ? 0 : 180,
    controller: "pwm",
  };
}

/** The strings of the array, each with its panel, plane and controller. */
export function StringList() {
  const { view, editor } = useDesk();
  const strings = view.document.array.strings;
  const add = () => {
    const taken = new Set(strings.map((string) => string.id));
    let number = strings.length + 1;
    while (taken.has(`string-${number}`)) number++;
    const value = newString(`string-${number}`, view.document.place?.latitude_deg ?? 0);
    editor.edit({ kind: "insert", path: ["array", "strings"], value });
  };
  useKey("n", add, [strings]);
  return (
    <>
      {strings.length === 0 && (
        <p className="py-2 text-[14px]">
          No panels yet. Press <kbd className="kbd kbd-sm">n</kbd>: one 100 W panel at 65° brings about 15 Ah
          a day in a mid-latitude winter month.
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
