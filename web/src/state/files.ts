// Files that are read for the open design: what is in them, as the core reads it.
import { api, fileIn, got } from "../api/client";
import { useDesign } from "./design";

const path = () => ({ params: { path: { design_id: useDesign.getState().id } } });

/** A bought part's shape from a STEP file. */
export const readSolid = (file: File) => got(api.POST("/api/designs/{design_id}/bought-solid", { ...path(), ...fileIn(file) }));

/** The outlines of a drawing, on the layers that are named (all that are cut where none are), and what was mended. */
export const readOutline = (file: File, layers: string[] = [], arcs = true) =>
  got(api.POST("/api/designs/{design_id}/outline", { ...path(), ...fileIn(file, { layers, arcs: String(arcs) }) }));

/** The rows of a bend table. */
export const readBendRows = (file: File) => got(api.POST("/api/designs/{design_id}/bend-rows", { ...path(), ...fileIn(file) }));

/** A picture or a page of a PDF, kept with the design to be traced. */
export const keepPicture = (file: File, page: number) =>
  got(api.POST("/api/designs/{design_id}/pictures", { ...path(), ...fileIn(file, { page: String(page) }) }));

/** Where a picture is that is kept with the design. */
export const pictureAt = (digest: string): string => `/api/designs/${useDesign.getState().id}/pictures/${digest}`;
