import { useState } from "react";
import { useNavigate } from "react-router";
import { Dialog } from "@/ui/Dialog";
import { useClass } from "./school";
import { SCREENS } from "./screens";

type Place = { name: string; kind: string; to: string };

const LETTERS = [..."abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789"];
const ELSEWHERE = [{ name: "House style", kind: "screen", to: "/style" }];
const MOST = 8;

/** Goes to a letter, a child or a screen by typing the beginning of its name. */
export function FindDialog({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  const [text, setText] = useState("");
  const { children } = useClass();
  const navigate = useNavigate();
  const places: Place[] = [
    ...LETTERS.map((char) => ({ name: char, kind: "letter", to: `/letters/${char}` })),
    ...children.map((child) => ({ name: child.name, kind: "child", to: `/children/${child.id}` })),
    ...SCREENS.map((screen) => ({ name: screen.name, kind: "screen", to: screen.to })),
    ...ELSEWHERE,
  ];
  const wanted = text.trim();
  const begins = (one: Place) => one.name.toLowerCase().startsWith(wanted.toLowerCase());
  const exact = (one: Place) => Number(one.name.startsWith(wanted));
  const found = wanted
    ? places
        .filter(begins)
        .sort((a, b) => exact(b) - exact(a))
        .slice(0, MOST)
    : [];
  const change = (on: boolean) => {
    setText("");
    onOpenChange(on);
  };
  const go = (place: Place) => {
    change(false);
    navigate(place.to);
  };
  return (
    <Dialog title="Find" open={open} onOpenChange={change}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (found[0]) go(found[0]);
        }}
      >
        <label className="block">
          <span className="text-small text-graphite">A letter, a child or a screen</span>
          <input
            autoComplete="off"
            value={text}
            onChange={(event) => setText(event.target.value)}
            className="mt-1 h-12 w-full border-b-2 border-line bg-band px-3 text-large"
          />
        </label>
      </form>
      <ul aria-label="Found" className="mt-2">
        {found.map((place) => (
          <li key={place.to}>
            <button
              type="button"
              onClick={() => go(place)}
              className="flex w-full justify-between border-b border-hair px-3 py-2 text-left hover:bg-band"
            >
              <span>{place.name}</span>
              <span className="text-small text-graphite">{place.kind}</span>
            </button>
          </li>
        ))}
        {wanted && !found.length && (
          <li className="px-3 py-2 text-graphite">Nothing begins with “{text}”.</li>
        )}
      </ul>
    </Dialog>
  );
}
