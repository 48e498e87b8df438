import { SetTheScene } from "./SetTheScene";
import { Years } from "./Years";

export default function RehearseSheet() {
  return (
    <>
      <SetTheScene />
      <Years />
    </>
  );
}
