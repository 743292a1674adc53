import { unrollRound } from "../src/core/mesh/unroll";
import { lattice, round } from "../src/core/mesh/unroll/testing";
const [p,i]=lattice(125, 200, (u, v) => round(u, 0.2 + v, -2 * v), true);
for(let k=0;k<30;k++){const s=performance.now();unrollRound(p,i);if(k%10==0)console.log(performance.now()-s)}
