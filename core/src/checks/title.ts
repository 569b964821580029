import { lengthOf } from '../text/index.js';
import { DESCRIPTION_SHOWN, TITLE_SHOWN } from '../metadata/index.js';
import type { DocumentCheck } from './finding.js';

/** A page without a title blocks; a title or description longer than search engines show is worth fixing. */
export const title: DocumentCheck = ({ document }) => {
  const { title: text, description } = document.metadata;
  if (!text.trim())
    return [
      {
        check: 'title',
        severity: 'blocks',
        message: 'The page has no title.',
        mend: 'Write one: it appears in search results and browser tabs.',
        place: { metadata: 'title' },
      },
    ];
  const titleLength = lengthOf(text);
  const descriptionLength = lengthOf(description);
  return [
    ...(titleLength > TITLE_SHOWN
      ? [
          {
            check: 'title',
            severity: 'worth-fixing' as const,
            message: `Title is ${titleLength} characters; about ${TITLE_SHOWN} are shown.`,
            mend: 'Shorten it; put the important words first.',
            place: { metadata: 'title' as const },
          },
        ]
      : []),
    ...(!description.trim()
      ? [
          {
            check: 'description',
            severity: 'worth-fixing' as const,
            message: 'The page has no description.',
            mend: 'Write one or two sentences: they appear in search results.',
            place: { metadata: 'description' as const },
          },
        ]
      : descriptionLength > DESCRIPTION_SHOWN
        ? [
            {
              check: 'description',
              severity: 'worth-fixing' as const,
              message: `Description is ${descriptionLength} characters; about ${DESCRIPTION_SHOWN} are shown.`,
              mend: 'Shorten it.',
              place: { metadata: 'description' as const },
            },
          ]
        : []),
  ];
};
