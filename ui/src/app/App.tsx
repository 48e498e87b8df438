import { Outlet } from "react-router";
import { useTheme } from "../kit/settings";
import { Away } from "./Away";

/** What every page shares. */
export function App() {
  useTheme();
  return (
    <div className="flex h-full flex-col">
      <Away />
      <div className="min-h-0 flex-1 overflow-auto print:overflow-visible">
        <Outlet />
      </div>
    </div>
  );
}
