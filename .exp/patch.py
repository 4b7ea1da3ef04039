p='src/server/roster/highs.ts'; s=open(p).read()
s=s.replace("        model.run();\n","        const t=performance.now(); model.run(process.env.HLOG==='1'&&whole?{[highs.constants.callbackType.logging](e:any){process.stdout.write(e.message??'')}} as any:undefined); if(process.env.HLOG) console.log('   run',(performance.now()-t)|0,'cols',columns,'status',model.getModelStatus(), 'it', model.info.get('simplex_iteration_count'));\n")
open(p,'w').write(s)
