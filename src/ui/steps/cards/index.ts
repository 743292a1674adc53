/** The cards of the seven steps: for each exactly the controls that it has. */
import type { ComponentType } from "react";
import type { StepName } from "@/core/place";
import { FitCard } from "./FitCard";
import { GapsCard } from "./GapsCard";
import { SpacingCard } from "./SpacingCard";
import { StanceCard } from "./StanceCard";
import { VariationCard } from "./VariationCard";
import { WhatCard } from "./WhatCard";
import { WhereCard } from "./WhereCard";
import type { CardProps } from "../params";

export const CARDS: Readonly<Record<StepName, ComponentType<CardProps>>> = {
  where: WhereCard,
  what: WhatCard,
  spacing: SpacingCard,
  stance: StanceCard,
  fit: FitCard,
  variation: VariationCard,
  gaps: GapsCard,
};
