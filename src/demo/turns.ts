/** Angles of the demo scene, as steps have them. */

export const RAD = Math.PI / 180;

/** Turned about up alone, by so much to either side. */
export const turnedAboutUp = (most: number) => ({
  turnOn: true,
  turnAlong: [0, 0],
  turnAcross: [0, 0],
  turnUp: [-most, most],
});
