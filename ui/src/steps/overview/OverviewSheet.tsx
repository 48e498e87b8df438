import { Latest } from "./Latest";
import { NextJobs } from "./NextJobs";
import { Warnings } from "./Warnings";
import { WaysOn } from "./WaysOn";

/** Where a site opens: what is to be done, what it said last, what is due, and the ways on. */
export default function OverviewSheet() {
  return (
    <div className="grid gap-x-10 xl:grid-cols-2">
      <div>
        <NextJobs />
        <Warnings />
      </div>
      <div>
        <Latest />
        <WaysOn />
      </div>
    </div>
  );
}
