import { readFileSync } from "fs";
import { sceneSchema } from "@/core/scene";
import { Engine } from "@/engine/engine";
const src=readFileSync("bench/_asm.ts","utf8");
const prop=(id:string)=>({id,name:id,asset:"0".repeat(63)+"a",bounds:{min:[-0.05,0,-0.05],max:[0.05,0.2,0.05]},triangles:12});
const rules={spacing:{distance:0.2},variation:{positionOn:true,turnOn:true,turnUp:[-1,1],sizeOn:true,size:[0.9,1.1]},what:{entries:[{prop:"a"},{prop:"b"}],order:"mixed"}};
const line=(id:string,len:number)=>({id,name:id,number:1,kind:"polyline",knots:[{position:[0,0,0]},{position:[len,0,0]}]});
const scene=(each:string,most:number,seed=1)=>sceneSchema.parse({version:14,name:"x",props:[prop("a"),prop("b"),{id:"A",name:"A",asset:null,bounds:{min:[0,0,0],max:[1,1,1]},triangles:0,assembly:{each,most,lines:[line("l",19.9)],dressings:[{id:"d",name:"d",where:{lines:["l"]},...rules}]}}],
 lines:[line("out",1000)],dressings:[{id:"D",name:"D",where:{lines:["out"]},what:{entries:[{prop:"A"}]},spacing:{by:"count",count:1000},variation:{seed}}]});
void src;
for(let r=0;r<5;r++){ const s=scene("varied",0,r+1); new Engine().evaluate(s); }
