import { sceneSchema } from "@/core/scene";
import { Engine } from "@/engine/engine";
const prop=(id:string)=>({id,name:id,asset:"0".repeat(63)+"a",bounds:{min:[-0.05,0,-0.05],max:[0.05,0.2,0.05]},triangles:12});
const rules={spacing:{distance:0.2},variation:{positionOn:true,turnOn:true,turnUp:[-1,1],sizeOn:true,size:[0.9,1.1]},what:{entries:[{prop:"a"},{prop:"b"}],order:"mixed"}};
const line=(id:string,len:number)=>({id,name:id,number:1,kind:"polyline",knots:[{position:[0,0,0]},{position:[len,0,0]}]});
const scene=(each:string,most:number,seed=1)=>sceneSchema.parse({version:14,name:"x",props:[prop("a"),prop("b"),{id:"A",name:"A",asset:null,bounds:{min:[0,0,0],max:[1,1,1]},triangles:0,assembly:{each,most,lines:[line("l",19.9)],dressings:[{id:"d",name:"d",where:{lines:["l"]},...rules}]}}],
 lines:[line("out",1000)],dressings:[{id:"D",name:"D",where:{lines:["out"]},what:{entries:[{prop:"A"}]},spacing:{by:"count",count:1000},variation:{seed}}]});
const plain=(seed=1)=>sceneSchema.parse({version:14,name:"x",props:[prop("a"),prop("b")],lines:[line("out",20000)],dressings:[{id:"D",name:"D",where:{lines:["out"]},...rules,spacing:{distance:0.2},variation:{...rules.variation,seed}}]});
const time=(f:()=>unknown)=>{const t=performance.now();f();return performance.now()-t};
for(let r=0;r<4;r++){
 const e=()=>new Engine();
 const ps=plain(r+1), s12=scene("varied",12,r+1), sall=scene("varied",0,r+1), same=scene("same",0,r+1);
 let n=0;
 const en=e(); const p=time(()=>{n=en.evaluate(ps)[0].placements.count});
 const e2=e(); const t12=time(()=>{n=e2.evaluate(s12)[0].apart!.placements.count});
 const e3=e(); const tall=time(()=>{n=e3.evaluate(sall)[0].apart!.placements.count});
 const e4=e(); const ts=time(()=>{n=e4.evaluate(same)[0].apart!.placements.count});
 console.log(n,"plain",p.toFixed(1),"12",t12.toFixed(1),"all",tall.toFixed(1),"same",ts.toFixed(1), "ratios", (p/t12).toFixed(2),(p/tall).toFixed(2));
}
