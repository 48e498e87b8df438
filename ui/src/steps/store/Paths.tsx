import type { components } from "../../api/schema";
import { useDesk } from "../../kit/context";

type ChargePath = components["schemas"]["ChargePath"];
const PATHS = ["store", "paths"] as const;

/** Which source reaches which bank, as a table of ticks with the switch position each needs. */
export function Paths() {
  const { view, editor } = useDesk();
  const { document, report } = view;
  const paths = document.store.paths;
  const banks = report.store?.charged ?? [];
  const sources = [
    ...document.array.strings.map((string) => [string.id, string.name] as const),
    ...document.array.chargers.map((charger) => [charger.id, charger.name] as const),
    ...(document.array.alternator ? [["alternator", "Engine"] as const] : []),
    ["main", "Main battery, through a converter"] as const,
  ];
  // Nothing said means every source charges the main bank: the first tick makes that explicit.
  const toMain = (source: string): ChargePath => ({ source, bank: "main", position: "" });
  // A charger is on the bus: it charges the main bank unless a path says otherwise.
  const onBus = document.array.chargers.filter(
    (charger) => !paths.some((path) => path.source === charger.id),
  );
  const told: ChargePath[] =
    paths.length > 0
      ? [...paths, ...onBus.map((charger) => toMain(charger.id))]
      : sources.slice(0, -1).map(([source]) => toMain(source));
  const at = (source: string, bank: string) =>
    told.find((path) => path.source === source && path.bank === bank);
  const put = (next: ChargePath[]) => editor.edit({ kind: "set", path: PATHS, value: next });
  const flip = (source: string, bank: string) => {
    const held = at(source, bank);
    put(held ? told.filter((path) => path !== held) : [...told, { source, bank, position: "" }]);
  };
  const place = (source: string, bank: string, position: string) =>
    put(told.map((path) => (path.source === source && path.bank === bank ? { ...path, position } : path)));
  return (
    <div className="mt-4 overflow-x-auto">
      <table className="w-full min-w-[26rem]">
        <caption className="label pb-1 text-left">
          Which source charges which battery, and in which switch position
        </caption>
        <thead>
          <tr className="text-[12px] text-ink2">
            <th scope="col" className="text-left font-normal">
              Source
            </th>
            {banks.map((bank) => (
              <th key={bank.id} scope="col" className="text-left font-normal">
                {bank.name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {sources.map(([source, name]) => (
            <tr key={source} className="border-t border-hair2">
              <th scope="row" className="py-1 text-left font-normal">
                {name}
              </th>
              {banks.map((bank) => {
                const held = at(source, bank.id);
                if (source === bank.id)
                  return (
                    <td key={bank.id} className="text-ink2">
                      –
                    </td>
                  );
                return (
                  <td key={bank.id}>
                    <label className="inline-flex items-center gap-2">
                      <input
                        type="checkbox"
                        checked={held !== undefined}
                        aria-label={`${name} charges ${bank.name}`}
                        onChange={() => flip(source, bank.id)}
                      />
                    </label>
                    {held && (
                      <input
                        key={held.position}
                        className="cell ml-2 inline-block w-24"
                        aria-label={`${name} to ${bank.name}: switch position`}
                        placeholder="always"
                        defaultValue={held.position}
                        onBlur={(event) => {
                          if (event.target.value !== held.position)
                            place(source, bank.id, event.target.value);
                        }}
                      />
                    )}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
