// Names for the API's types. Everything here is generated; nothing is declared by hand.
import type { components } from "./schema";

type S = components["schemas"];
export type BuiltOut = S["BuiltOut"];
export type PartOut = S["PartOut"];
export type JointOut = S["JointOut"];
export type ProblemOut = S["ProblemOut"];
export type ValueOut = S["ValueOut"];
export type SolidOut = S["SolidOut"];
export type FlatOut = S["FlatOut"];
export type ContourOut = S["ContourOut"];
export type DesignOut = S["DesignOut"];
export type PreviewOut = S["PreviewOut"];
export type DesignRow = S["DesignRow"];
export type EditOut = S["EditOut"];
export type JointKindOut = S["JointKindOut"];
export type JointFieldOut = S["JointFieldOut"];
export type FigureOut = S["FigureOut"];
export type AssemblyOut = S["AssemblyOut"];
export type DrillOut = S["DrillOut"];
export type FitOut = S["FitOut"];
export type OfferOut = S["OfferOut"];
export type NestState = S["NestState"];
export type LayoutOut = S["LayoutOut"];
export type SheetOut = S["SheetOut"];
export type Session = S["Session"];
export type Fault = S["Fault"];
export type Patch = { [key: string]: unknown }[];
