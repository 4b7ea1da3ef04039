import { chakra } from '@chakra-ui/react';
import { useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { ButtonLabel } from '#web/kit/Button.tsx';
import { phrase, term } from '#web/words/phrase.ts';
import { base64Of } from '../base64.ts';
import { Empty } from '../kit/Note.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { useAction, useAsk } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';

/** Bring people in: choose a file; earlier imports below. */
export default function Imports() {
  const imports = useAsk('GET /api/imports');
  const navigate = useNavigate();
  const { at } = useSaying();
  const file = useRef<HTMLInputElement>(null);
  const [reading, setReading] = useState(false);
  const check = useAction('POST /api/imports', ({ id }) => navigate(`/import/${id}`));
  const read = async (chosen: File | undefined) => {
    if (!chosen) return;
    setReading(true);
    const content = await base64Of(chosen);
    setReading(false);
    check.mutate({ body: { fileName: chosen.name, content } });
    if (file.current) file.current.value = '';
  };
  return (
    <chakra.div className="page" maxWidth="860px">
      <h1>{phrase('common.importContacts')}</h1>
      <chakra.p className="soft" margin="4px 0 14px">
        {phrase('contacts.aTableAsCsv')}
      </chakra.p>
      <Problems of={check.problem} />
      <ButtonLabel look="main" cursor="pointer">
        {reading || check.isPending ? phrase('contacts.reading') : phrase('contacts.chooseAFile')}
        <chakra.input
          ref={file}
          type="file"
          accept=".csv,.tsv,.txt,.vcf,text/csv,text/vcard"
          srOnly
          disabled={check.isPending}
          onChange={(e) => void read(e.target.files?.[0])}
          data-new
        />
      </ButtonLabel>
      <chakra.h2 marginTop="26px">{phrase('contacts.earlierImports')}</chakra.h2>
      <Loaded of={imports}>
        {(list) =>
          list.length === 0 ? (
            <Empty>{phrase('contacts.filesYouBringIn')}</Empty>
          ) : (
            <ul className="lines">
              {list.map((i) => (
                <li key={i.id} className="spread">
                  <span>
                    <Link to={`/import/${i.id}`} className="name">
                      {i.fileName}
                    </Link>{' '}
                    <small className="soft num">
                      {phrase('contacts.newChangesTheSame', {
                        createdAt: at(i.createdAt),
                        new: i.counts.new,
                        changes: i.counts.changes,
                        same: i.counts.same,
                        look: i.counts.look,
                        rejected: i.counts.rejected,
                      })}
                    </small>
                  </span>
                  <span className="word">{term(i.state)}</span>
                </li>
              ))}
            </ul>
          )
        }
      </Loaded>
    </chakra.div>
  );
}
