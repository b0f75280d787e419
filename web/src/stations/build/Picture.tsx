// The picture alone, without the tools that add to it: the same one, seen from the same side.
import { CubeNet } from "./CubeNet";
import { Scene } from "./Scene";

export function Picture() {
  return (
    <>
      <CubeNet />
      <Scene />
    </>
  );
}
