import { phrase } from '#web/words/phrase.ts';
import { Loaded, Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk } from '../parts/ask.ts';
import { PictureField } from '../parts/PictureField.tsx';

/** The logo of the organization (`unitId` null) or of a unit: over the public's pages, or on those of its events. */
export function Logo({ unitId, name }: { unitId: string | null; name: string }) {
  const logos = useAsk('GET /api/logos');
  const give = useAction('PUT /api/logos');
  return (
    <>
      <Problems of={give.problem} />
      <p className="soft">{phrase(unitId ? 'team.logoOfUnit' : 'team.logoOfAll')}</p>
      <Loaded of={logos}>
        {(all) => {
          const logo = all.find((l) => l.unitId === unitId)?.picture ?? null;
          const put = (pictureId: string | null, undo = true) =>
            give.mutate(
              { body: { unitId, pictureId } },
              {
                onSuccess: () =>
                  say(
                    phrase('common.saved'),
                    !undo
                      ? undefined
                      : { label: phrase('common.undo'), run: () => put(logo?.id ?? null, false) },
                  ),
              },
            );
          return (
            <PictureField name={name} picture={logo} ratio="" set={(picture) => put(picture?.id ?? null)} />
          );
        }}
      </Loaded>
    </>
  );
}
