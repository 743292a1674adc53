"use client";
/** Keeps what is drawn by hand in the table's colours. */
import { useEffect } from "react";
import { followTableColours } from "./table-colours";

export function TableColours() {
  useEffect(followTableColours, []);
  return null;
}
