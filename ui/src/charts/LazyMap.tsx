import { type ComponentProps, lazy, Suspense } from "react";

// The land is sixty kilobytes: no step waits for it.
const WorldMap = lazy(() => import("./WorldMap"));

/** The world map, loaded once something shows it. */
export function LazyMap(props: ComponentProps<typeof WorldMap>) {
  return (
    <Suspense fallback={<div className="aspect-[2.5] w-full rounded border border-hair bg-ground" />}>
      <WorldMap {...props} />
    </Suspense>
  );
}
