/**
 * *The table's colours*: light or dark, by choice or as the system has them. `public/table.js` sets them before anything is
 * drawn; style sheets know them as tokens, and what is drawn by hand asks here.
 */
import { create } from "zustand";

export type TableChoice = "system" | "light" | "dark";

/**
 * The colours of what is drawn on canvases: there before any style sheet is. Lines and letters are stronger than those of the
 * style sheet, paper and ink the same.
 */
const LIGHT = {
  ink: "#1f2a33",
  faint: "#5c6973",
  sea: "#1e6f77",
  madder: "#b5363f",
  ochre: "#c98a1b",
  wood: "#8f6a3a",
  cord: "#6b5638",
  linen0: "#fdfbf6",
  linen1: "#f6f0e4",
  linen2: "#ebe2d0",
  linen3: "#d8cbb3",
  horizon: "#dfeaea",
  bareGround: "#f3e6cc",
};
const DARK: typeof LIGHT = {
  ink: "#ece6da",
  faint: "#a3acb2",
  sea: "#4aa9b2",
  madder: "#e0686f",
  ochre: "#d79a2c",
  wood: "#b58a54",
  cord: "#b39a70",
  linen0: "#1f262c",
  linen1: "#272f36",
  linen2: "#343e47",
  linen3: "#47535d",
  horizon: "#414d54",
  bareGround: "#8d8574",
};

export const DRAWN = { light: LIGHT, dark: DARK };

/** The present colours: always read when something is drawn, never kept. */
export const inks = { ...DRAWN.light };

export const useTableColours = create<{ dark: boolean }>()(() => ({ dark: false }));

/** Follows what the page shows; ends with what it returns. */
export function followTableColours(): () => void {
  const take = () => {
    const dark = document.documentElement.dataset.table === "dark";
    Object.assign(inks, dark ? DRAWN.dark : DRAWN.light);
    if (useTableColours.getState().dark !== dark) useTableColours.setState({ dark });
  };
  take();
  const watcher = new MutationObserver(take);
  watcher.observe(document.documentElement, { attributeFilter: ["data-table"] });
  return () => watcher.disconnect();
}

const KEPT = "table";

export function tableChoice(): TableChoice {
  const kept = globalThis.localStorage?.getItem(KEPT);
  return kept === "light" || kept === "dark" ? kept : "system";
}

export function chooseTable(choice: TableChoice): void {
  localStorage.setItem(KEPT, choice);
  window.dispatchEvent(new Event("table"));
}

/** The choices as a menu lists them; the present one is marked. */
export const tableChoices = () =>
  (
    [
      ["system", "Colours as the system has them"],
      ["light", "Light table"],
      ["dark", "Dark table"],
    ] as const
  ).map(([id, label], i) => ({
    id: `table ${id}`,
    label: tableChoice() === id ? `${label} ✓` : label,
    ...(i === 0 && { group: "Colours" }),
  }));
