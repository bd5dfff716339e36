import { compose, randomOf } from './check/compose';
import { FAULTS } from './check/faults';
import { proofread, ASKED } from '@/core/check';
const names=process.argv.slice(2);
for(const name of names){ const fault=FAULTS[name]; if(!fault){console.log('no',name);continue;} let t=0,h=0;
for(let seed=0;seed<24;seed++){const {piece}=compose(seed,'tuned');const known=new Set(proofread(piece).map(x=>x.id+x.ground));for(let n=0;n<2;n++){const m=fault(piece,randomOf(seed*31+n+5));if(!m)continue;t++;const f=proofread(m.piece);const hit=f.find(x=>m.hit(x)&&!known.has(x.id+x.ground)&&x.likely>=ASKED);if(hit)h++;else {const near=f.filter(x=>m.hit(x));if(t-h<=6)console.log('  miss',seed,n,near.map(x=>x.likely.toFixed(2)+' '+x.rule+' '+x.words.slice(0,150)).join(' || ')||'nothing');}}}
console.log(name,h,'of',t);}
