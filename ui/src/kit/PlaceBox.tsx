import { useQuery } from "@tanstack/react-query";
import { type KeyboardEvent, useId, useState } from "react";
import { answer, client } from "../api/client";
import type { components } from "../api/schema";

type Town = components["schemas"]["TownView"];
type Props = {
  id: string;
  text: string;
  invalid: boolean;
  onText: (text: string) => void;
  /** What was typed is to be read, on Enter or on leaving the field. */
  onSettle: (text: string) => void;
  onEscape?: () => void;
  /** Where it is asked from: of towns called alike the nearer comes first. */
  near?: { latitude_deg: number; longitude_deg: number } | undefined;
};

/** Letters alone may be a town; a locator has figures within its first four characters. */
const mayBeTown = (text: string) => /^\p{L}[\p{L} .'’-]{2,}$/u.test(text.trim());

const coordinates = (town: Town) => `${town.latitude_deg} ${town.longitude_deg}`;

function useTowns(text: string, open: boolean, near: Props["near"]) {
  const wanted = open && mayBeTown(text);
  const from = near ? `${near.latitude_deg},${near.longitude_deg}` : "";
  const { data } = useQuery({
    queryKey: ["towns", text.trim(), from],
    enabled: wanted,
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: (before) => before,
    queryFn: () => answer(client.GET("/api/towns", { params: { query: { text: text.trim(), near: from } } })),
  });
  return wanted ? data : undefined;
}

/** A place as a locator, coordinates or a town; towns are offered as the name is typed. */
export function PlaceBox({ id, text, invalid, onText, onSettle, onEscape, near }: Props) {
  const listId = useId();
  const [open, setOpen] = useState(false);
  const [at, setAt] = useState(0);
  const towns = useTowns(text, open, near);
  const shown = open && towns !== undefined;
  const take = (town: Town) => {
    setOpen(false);
    onSettle(coordinates(town));
  };
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    const count = towns?.length ?? 0;
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (step && shown && count > 0) {
      event.preventDefault();
      setAt((now) => (now + step + count) % count);
    } else if (event.key === "Enter") {
      const town = shown ? towns?.[at] : undefined;
      if (town) {
        event.preventDefault();
        take(town);
      } else {
        setOpen(false);
        onSettle(text);
      }
    } else if (event.key === "Escape") {
      setOpen(false);
      onEscape?.();
    }
  };
  return (
    <div className="relative">
      <input
        id={id}
        className="field"
        placeholder="RE56tv, -43.10 171.60, or a town"
        autoComplete="off"
        role="combobox"
        aria-expanded={shown}
        aria-controls={listId}
        aria-activedescendant={shown && towns?.[at] ? `${listId}-${at}` : undefined}
        aria-invalid={invalid ? true : undefined}
        aria-describedby={`${id}-error`}
        value={text}
        onChange={(event) => {
          setOpen(true);
          setAt(0);
          onText(event.target.value);
        }}
        onBlur={() => {
          // A name half typed is not yet a place: wait for one to be chosen.
          if (!(shown && (towns?.length ?? 0) > 0)) onSettle(text);
          setOpen(false);
        }}
        onKeyDown={onKeyDown}
      />
      <div
        id={listId}
        role="listbox"
        aria-label="Towns"
        className={`absolute inset-x-0 top-full z-20 rounded border border-hair bg-sheet shadow-md ${shown ? "" : "hidden"}`}
      >
        {shown && towns?.length === 0 && (
          <p className="px-2 py-1.5 text-ink2">No town found with that name. Try a locator or coordinates.</p>
        )}
        {shown &&
          towns?.map((town, index) => (
            <div
              key={`${town.name} ${coordinates(town)}`}
              id={`${listId}-${index}`}
              role="option"
              tabIndex={-1}
              aria-selected={index === at}
              className={`flex cursor-pointer justify-between px-2 py-1 ${index === at ? "bg-actsoft" : ""}`}
              // Before the field loses the focus, which would close the list.
              onPointerDown={(event) => {
                event.preventDefault();
                take(town);
              }}
            >
              <span>
                {town.name}
                {town.known_as && ` (${town.known_as})`}, {town.country}
              </span>
              <span className="text-ink2">{town.locator}</span>
            </div>
          ))}
      </div>
    </div>
  );
}
