/** What a surface's file moves by itself, by its nodes, skins and shapes. */
import { clipTime, poseAt, posedVertices } from "../rig";
import type { Moves } from "./moving";
import type { FileMotion } from "./schema";

export const fileMotion: Moves<FileMotion> = {
  move({ clip: number, times, gone = 0 }, moving, weight) {
    const { rig } = moving.rest.mesh;
    const clip = rig?.clips[number];
    if (!rig || !clip) return;
    const pose = poseAt(rig, clip, clipTime(gone, clip.seconds, times));
    moving.goTo(posedVertices(rig, pose), weight);
  },
};
