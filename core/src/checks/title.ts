import { lengthOf } from '../text/index.js';
import { DESCRIPTION_SHOWN, TITLE_SHOWN } from '../metadata/index.js';
import { found, type DocumentCheck } from './finding.js';

/** A page without a title blocks; a title or description longer than search engines show is worth fixing. */
export const title: DocumentCheck = ({ document }) => {
  const { title: text, description } = document.metadata;
  if (!text.trim()) return [found('title', 'blocks', 'title-missing', {}, { metadata: 'title' })];
  const [titleLength, descriptionLength] = [lengthOf(text), lengthOf(description)];
  const isLong = titleLength > TITLE_SHOWN;
  const lengths = { length: titleLength, shown: TITLE_SHOWN };
  return [
    ...(isLong ? [found('title', 'worth-fixing', 'title-long', lengths, { metadata: 'title' })] : []),
    ...(!description.trim()
      ? [found('description', 'worth-fixing', 'description-missing', {}, { metadata: 'description' })]
      : descriptionLength > DESCRIPTION_SHOWN
        ? [
            found(
              'description',
              'worth-fixing',
              'description-long',
              { length: descriptionLength, shown: DESCRIPTION_SHOWN },
              { metadata: 'description' },
            ),
          ]
        : []),
  ];
};
