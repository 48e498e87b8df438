import { Failures } from "./Failures";
import { SetTheScene } from "./SetTheScene";
import { SizingMap } from "./SizingMap";
import { Years } from "./Years";

export default function RehearseSheet() {
  return (
    <>
      <SetTheScene />
      <Years />
      <SizingMap />
      <Failures />
    </>
  );
}
