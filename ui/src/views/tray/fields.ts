import type { Kitchen, Schemas, Tray, TraySetting } from "../../api/client";
import type { Piece } from "../../logic/pieces";

/** What every field of a portion is given. */
export interface FieldsProps {
  kind: Schemas["KindShown"];
  doughId: number;
  piece: Piece;
  setting: TraySetting;
  tray: Tray | undefined;
  kitchen: Kitchen;
  fault: (field: string) => string | undefined;
  onPiece: (change: (before: Piece) => Piece) => void;
  onEvenness: (evenness: TraySetting["evenness"]) => void;
  onKitchen: (change: (before: Kitchen) => Kitchen) => void;
}
