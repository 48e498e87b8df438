import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { Outlet } from "react-router";
import { useTheme, useUnits } from "../kit/settings";
import { Away } from "./Away";

/** Sentences are said in the person's units as they come: with others chosen they are asked for again. */
function useSaidAgain(): void {
  const units = useUnits();
  const before = useRef(units);
  const cache = useQueryClient();
  useEffect(() => {
    if (before.current === units) return;
    before.current = units;
    void cache.invalidateQueries();
  }, [units, cache]);
}

/** What every page shares. */
export function App() {
  useTheme();
  useSaidAgain();
  return (
    <div className="flex h-full flex-col">
      <Away />
      <div className="min-h-0 flex-1 overflow-auto print:overflow-visible">
        <Outlet />
      </div>
    </div>
  );
}
