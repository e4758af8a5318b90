import { useLayoutEffect, useRef } from "react";
import { SCREENS } from "./screens";

type Keys = Record<string, () => void>;

const GO_MS = 1200;
let wentAt = 0; // when g was pressed: a screen's key that follows goes there

const isGoing = () => Date.now() - wentAt < GO_MS;

export const startGoing = () => {
  wentAt = Date.now();
};

const namesScreen = (key: string) => SCREENS.some((screen) => screen.key === key);

const typing = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  target.matches("input:not([type=radio]), textarea, select, [contenteditable]");

const onControl = (target: EventTarget | null) =>
  target instanceof Element && target.closest("button, a, [role=button], [role=radio], input") !== null;

/** A letter of a row, or whatever says that the page's keys are its own. */
const onLetter = (target: EventTarget | null) =>
  target instanceof SVGElement || (target instanceof Element && target.closest("[data-page-keys]") !== null);

/** Arrows on one of a few options go from option to option. */
const amongOptions = ({ key, target }: KeyboardEvent) =>
  key.startsWith("Arrow") && target instanceof HTMLElement && target.matches("input[type=radio]");

function isHeld(event: KeyboardEvent, onLetters: boolean): boolean {
  const ownUse =
    (event.key === " " || event.key === "Enter") &&
    onControl(event.target) &&
    !(onLetters && onLetter(event.target));
  const elsewhere = event.ctrlKey || event.metaKey || event.altKey || typing(event.target);
  return ownUse || elsewhere || amongOptions(event) || document.querySelector("[role=dialog]") !== null;
}

/**
 * Page-wide keys, by `KeyboardEvent.key` in lower case. They rest while text is being typed or a
 * dialog is open; Enter and Space are left to a focused control (but, where `onLetters`, not to a letter
 * that is one), and the key after g to the shell.
 */
export function useKeys(keys: Keys, { whileGoing = false, onLetters = false } = {}) {
  const latest = useRef(keys);
  latest.current = keys;
  // with the screen itself, not after it: a key that is pressed as soon as the screen is seen counts
  useLayoutEffect(() => {
    const press = (event: KeyboardEvent) => {
      const key = event.key.length === 1 ? event.key.toLowerCase() : event.key;
      const act = latest.current[key];
      if (!act || isHeld(event, onLetters) || (isGoing() && namesScreen(key)) !== whileGoing) return;
      wentAt = 0;
      event.preventDefault();
      event.stopImmediatePropagation();
      act();
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [whileGoing, onLetters]);
}
