import { readFileSync } from 'node:fs';
import { loadSheet } from '@jiko/core/board';
import { playBoard, usualSetup } from '@jiko/core/powerup';
import { listFaults, faultName, withFault } from '@jiko/core/faults';
for (const id of ['beck-mini','fell-13','cairn-14']) {
const l=loadSheet(readFileSync(`sheets/${id}.yaml`,'utf8')); if(!l.ok) throw 1; const b=l.value;
const fs=listFaults(b); let bad=0, swing=0; const t=performance.now(); const why:Record<string,string[]>={};
for(const f of fs){ const p=playBoard(withFault(b,f),usualSetup(b)); if(p.status==='invalid'){bad++; const k=p.because.replace(/after.*/,''); (why[k]??=[]).push(faultName(f));} if([...p.phases.values()].some(s=>s.swinging.size>0)) swing++; }
console.log(id, fs.length,'faults', bad,'invalid', swing,'swinging', (performance.now()-t).toFixed(0),'ms');
for(const [k,v] of Object.entries(why)) console.log('  ',k,v.length,v.slice(0,6).join(' | '));
}
