import { Link } from "react-router";
import { FRONT } from "../../app/places";
import { Part } from "../../kit/layout";

/** What people come for, each with what one gets there. */
export function WaysOn() {
  return (
    <Part title="What you can do here">
      <ul className="grid gap-x-6 gap-y-2 sm:grid-cols-2">
        {FRONT.map(({ name, to, told }) => (
          <li key={name}>
            <Link className="text-act hover:underline" to={`../${to}`} relative="path">
              {name}
            </Link>
            <p className="text-[12px] text-ink2">{told}</p>
          </li>
        ))}
      </ul>
    </Part>
  );
}
