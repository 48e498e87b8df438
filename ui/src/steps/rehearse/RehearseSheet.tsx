import { Cautions } from "../../kit/Cautions";
import { Sections } from "../../kit/Sections";
import { Failures } from "./Failures";
import { HowMuch } from "./HowMuch";
import { Ration } from "./Ration";
import { Rotation } from "./Rotation";
import { SetTheScene } from "./SetTheScene";
import { Trainer } from "./Trainer";
import { Years } from "./Years";

const PAGES = [
  { id: "outage", name: "Run an outage", page: <SetTheScene /> },
  { id: "years", name: "Weather years", page: <Years /> },
  { id: "practise", name: "Train", page: <Trainer /> },
  {
    id: "last",
    name: "Stretch the battery",
    page: (
      <>
        <Ration />
        <Rotation />
      </>
    ),
  },
  { id: "enough", name: "How big must it be?", page: <HowMuch /> },
  { id: "lost", name: "If something breaks", page: <Failures /> },
];

/** The questions a rehearsal answers, one at a time; what was run stays while another is looked at. */
export default function RehearseSheet() {
  return (
    <>
      <Cautions step="rehearse" at="top" />
      <Sections label="Rehearse" sections={PAGES} lazy />
    </>
  );
}
