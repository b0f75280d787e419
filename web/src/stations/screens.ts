// What each station shows.
import { type ComponentType, lazy } from "react";
import type { Station } from "../state/stations";
import { Flats } from "./flats/Flats";
import { Nest } from "./nest/Nest";
import { Shop } from "./shop/Shop";
import { Sizes } from "./sizes/Sizes";

// the picture's library comes when it is looked at
const Build = lazy(() => import("./build/Build").then((m) => ({ default: m.Build })));

export const SCREENS: Record<Station, ComponentType> = { sizes: Sizes, build: Build, flats: Flats, nest: Nest, shop: Shop };
