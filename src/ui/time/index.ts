/** Time: the bar, playing, and the marks beside what can change. */
export { goTo, isPlaying, pause, playOrPause, stepFrames, useAtLeisure } from "./playing";
export { Tide, toggleTime } from "./Tide";
export { timeShown, TimeBar, useTimeShown } from "./TimeBar";
