import { Outlet } from "react-router";
import { useTheme } from "../kit/settings";

/** What every page shares. */
export function App() {
  useTheme();
  return <Outlet />;
}
