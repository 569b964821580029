const many = (n: number) => n.toLocaleString('en');

/**
 * What can be wrong with something that was typed or brought in, by code, in words: addresses, fields of blocks, themes,
 * CSS, things of the stock. What is read keeps code and params; words are made when somebody reads.
 */
export const FAULTS = {
  'not-text': () => 'This must be text.',
  'not-a-list': () => 'This must be a list.',
  'not-a-number': ({ least, most }: { readonly least: number; readonly most: number }) =>
    `This must be a number from ${least} to ${most}.`,
  'not-one-of': ({ all }: { readonly all: readonly string[] }) => `This must be one of ${all.join(', ')}.`,
  'not-in-form': ({ example }: { readonly example: string }) => `Use the form ${example}.`,
  'text-too-long': ({ length, most }: { readonly length: number; readonly most: number }) =>
    `${many(length)} characters; at most ${many(most)}.`,
  'field-too-long': ({
    label,
    length,
    most,
  }: {
    readonly label: string;
    readonly length: number;
    readonly most: number;
  }) => `${label} has ${many(length)} characters; at most ${many(most)}.`,
  'at-most-characters': ({ most }: { readonly most: number }) =>
    `This must be a text of at most ${many(most)} characters.`,
  'list-count': ({
    label,
    least,
    most,
    count,
  }: {
    readonly label: string;
    readonly least: number;
    readonly most: number;
    readonly count: number;
  }) => `${label}: ${least} to ${most}, not ${count}.`,
  'field-unknown': () => 'Unknown field.',
  'in-field': ({ label, fault }: { readonly label: string; readonly fault: Said }) => `${label}: ${faultWords(fault)}`,
  'nothing-chosen': () => 'Choose one.',
  'option-unknown': () => 'Choose one of the options.',
  'moment-missing': () => 'Choose a date and time.',
  'theme-missing': () => 'Choose a theme.',
  'picture-missing': () => 'Choose a picture.',

  'elements-count': ({ most }: { readonly most: number }) => `At most ${most} further elements.`,
  'element-name': () => 'A name begins with a letter and holds letters, digits, and . _ : - only.',
  'element-ours': () => 'Pages say this by a field of their own.',
  'element-content': ({ most }: { readonly most: number }) =>
    `Enter what it says, in at most ${many(most)} characters.`,
  'element-twice': () => 'This is there already.',

  'phrases-many': ({ most, longest }: { readonly most: number; readonly longest: number }) =>
    `At most ${most} phrases, each once, of at most ${longest} characters.`,
  'fact-unknown': () => 'This can’t be stated of a page, or is stated twice.',
  'fact-amount': () => 'Enter a number, like 1190 or 49.50.',
  'fact-currency': () => 'Enter the three letters of the currency, like EUR.',
  'fact-day': () => 'Enter a day, like 2027-05-01.',
  'pattern-empty': () => 'Enter a pattern.',
  'pattern-braces': () => 'A { or } has no partner, or a quotation mark in between has none.',
  'pattern-place': ({ place }: { readonly place: string }) =>
    `${place} can’t be read. Use names and words in quotation marks, with | in between.`,
  'pattern-itself': ({ name }: { readonly name: string }) => `It can’t be made of itself: take out {${name}}.`,
  'pattern-unknown': ({ names }: { readonly names: readonly string[] }) =>
    `${names.map((name) => `{${name}}`).join(', ')}: there is no such value.`,

  'fields-unreadable': () => 'These fields can’t be read.',
  'page-unreadable': () => 'This page can’t be read.',
  'block-unreadable': () => 'This block can’t be read.',
  'block-newer': () => 'This block was made by a newer version of Domatium.',
  'page-elsewhere': () => 'The page this link points to is not in this portfolio.',
  'picture-elsewhere': () => 'This picture is not in this portfolio.',
  'file-elsewhere': () => 'A file of this page is not in this portfolio.',
  'piece-elsewhere': () => 'A piece of this page is not in this portfolio.',
  'picture-unreadable': () => 'This picture can’t be read.',
  'button-unreadable': () => 'This button can’t be read.',
  'too-many-blocks': ({ most }: { readonly most: number }) => `A page has at most ${most} blocks.`,
  'tray-full': ({ most }: { readonly most: number }) =>
    `The tray holds at most ${most} blocks. Put some back on the page, or remove them.`,
  'description-too-long': ({ most }: { readonly most: number }) => `A description has at most ${most} characters.`,
  'button-too-long': ({ most }: { readonly most: number }) => `A button has at most ${most} characters.`,

  'rich-unreadable': () => 'This text can’t be read.',
  'rich-formatting': () => 'This text has formatting that pages don’t support.',
  'rich-content': () => 'This text contains something pages can’t contain.',
  'rich-too-deep': () => 'Lists are nested too deeply.',
  'rich-too-long': ({ length, most }: { readonly length: number; readonly most: number }) =>
    `This text has ${many(length)} characters; at most ${many(most)}.`,
  'rich-link': ({ fault }: { readonly fault: Said }) => `A link in this text: ${faultWords(fault)}`,

  'link-missing': () => 'Choose where it leads.',
  'link-unknown': () => 'Choose a page, a file, an outside address, a mailbox or a telephone.',
  'link-page': () => 'Choose a page.',
  'link-block': () => 'Choose a block.',
  'link-file': () => 'Choose a file.',
  'mailbox-invalid': () => 'Enter an e-mail address such as desk@marrowick.example.',
  'phone-invalid': () => 'Enter a phone number with its country code, such as +47 75 12 00 31.',

  'outside-too-long': ({ most }: { readonly most: number }) =>
    `The address is too long: at most ${many(most)} characters.`,
  'outside-spaces': () => 'An address can’t contain spaces.',
  'outside-incomplete': () => 'Write the whole address, beginning with https://',
  'outside-scheme': ({ scheme }: { readonly scheme: string }) => `${scheme} addresses can’t be used here.`,
  'outside-password': () => 'Leave the name and password out of the address.',

  'path-query': () => 'An address can’t contain ? or #.',
  'path-slash': () => 'A slash can’t be percent-encoded.',
  'path-invisible': () => 'The address contains an invisible character.',
  'path-space': () => 'Use a hyphen instead of a space.',
  'path-too-long': ({ most }: { readonly most: number }) => `The address is too long: at most ${many(most)} bytes.`,
  'path-encoding': () => 'This isn’t a valid address: check the percent-encoding.',
  'path-reserved': ({ path }: { readonly path: string }) => `${path} is kept for the installation. Choose another.`,
  'path-without-letter': () => 'An address needs at least one letter or digit.',
  'path-part-too-long': ({ length, most }: { readonly length: number; readonly most: number }) =>
    `Too long: ${length} characters in one part; at most ${most}.`,
  'path-too-long-below': ({
    length,
    base,
    most,
  }: {
    readonly length: number;
    readonly base: string;
    readonly most: number;
  }) => `The address is too long: ${many(length)} bytes with ${base}, at most ${many(most)}.`,

  'theme-unreadable': () => 'This theme can’t be read.',
  'font-unknown': () => 'There is no such font here.',
  'colour-invalid': () => 'Enter a colour such as #2e6a50.',
  'too-many-fonts': ({ most }: { readonly most: number }) => `A theme has at most ${most} fonts of its own.`,
  'font-unreadable': () => 'This font can’t be read. Upload the file again.',

  'css-too-deep': ({ most }: { readonly most: number }) =>
    `This is nested more than ${most} deep: nothing of it is used.`,
  'css-unreadable': ({ why }: { readonly why: string }) => `This can’t be read and is left out: ${why}.`,
  'css-value': ({ property, value }: { readonly property: string; readonly value: string }) =>
    `“${value}” is no value for ${property}; browsers leave it out.`,
  'source-broken': ({ what }: { readonly what: string }) => `The HTML is broken here: ${what}.`,
  'source-code-left-out': ({ tag }: { readonly tag: string }) =>
    `<${tag}> is left out. Code belongs in a block “Own HTML”.`,
  'css-at-rule': ({ rule }: { readonly rule: string }) => `@${rule} is left out: own CSS fetches nothing.`,
  'css-address': () => 'Pages load nothing from other hosts; this address won’t be loaded.',
  'css-hides-all': ({ selectors }: { readonly selectors: string }) =>
    `“${selectors}” hides the whole page; visitors would see nothing.`,
  'css-hides-heading': ({ selector }: { readonly selector: string }) =>
    `“${selector}” hides the page’s main heading from everybody.`,
  'css-unseen': ({ selector }: { readonly selector: string }) =>
    `“${selector}” has text in the colour of its ground: nobody can read it.`,
  'css-too-long': ({ most }: { readonly most: number }) => `Own CSS has at most ${many(most)} characters.`,

  'source-without-block': () => 'The section with data-block is missing; it is the block itself.',
  'source-other-block': ({ type }: { readonly type: string }) =>
    `data-block must stay “${type}”: a block does not become another by hand.`,
  'source-outside-fields': ({ text }: { readonly text: string }) => `“${text}” isn’t in any field and is left out.`,
  'source-unknown-field': ({ key }: { readonly key: string }) => `This block has no field “${key}”; it is left out.`,
  'source-field-twice': ({ key }: { readonly key: string }) => `“${key}” appears twice: only the first is used.`,
  'source-link': ({ href }: { readonly href: string }) => `“${href}” isn’t something a page can link to.`,

  'part-choice': () => 'Choose one of these.',
  'part-layout': () => 'Choose one of its layouts.',
  'part-blocks': ({ most }: { readonly most: number }) => `It has 1 to ${most} blocks.`,
  'part-missing': () => 'Choose one of the parts there are, or none.',
  'menu-entries': ({ most }: { readonly most: number }) => `A menu has at most ${many(most)} entries.`,
  'menu-levels': ({ most }: { readonly most: number }) => `Entries lie at most ${most} levels deep.`,
  'menu-label': () => 'Give this entry a label.',
  'menu-page': () => 'Choose a page of this portfolio.',
  'menu-loop': () => 'The page tree can’t follow itself. Arrange its pages by hand.',
  'menu-tree-pages': () => 'The page tree holds pages only. Put headings and outside addresses into a menu.',
  'menu-page-twice': () => 'This page has a place in the tree already.',
  'legal-count': ({ most }: { readonly most: number }) => `There are at most ${most} kinds of legal pages.`,
  'legal-key': () => 'Use small letters, digits and hyphens.',
  'legal-twice': () => 'There is such a page in the list already.',
  'part-bands': ({ most }: { readonly most: number }) => `Choose at most ${most} notice bands.`,
  'robots-line': () => 'No crawler knows this line. Begin it with User-agent:, Allow:, Disallow: or Sitemap:.',
  'robots-agent': () => 'Name the crawler, or * for all.',
  'robots-no-agent': () => 'No crawler heeds this line: a User-agent: line has to come before it.',
  'robots-path': () => 'A path begins with / or *.',
  'security-contact': () => 'Enter an address of mail (mailto:…), a phone (tel:…) or a page (https://…).',
  'security-expires': () => 'Choose the day until which it is right.',
  'root-name': () => 'Use letters, digits, hyphens and dots, and end with .txt, .html, .xml or .json.',
  'root-ours': () => 'This file is written by itself.',
  'root-count': ({ most }: { readonly most: number }) => `At most ${most} files.`,
  'code-empty': () => 'Give the address of the script, or the script itself.',
  'code-tags': () => 'Leave out the script tags: JavaScript alone is kept here.',
  'code-nowhere': () => 'Say on which pages it runs.',
  'code-data-name': () => 'Use small letters, digits and hyphens, like “site-id”.',
  'code-data-count': ({ most }: { readonly most: number }) => `At most ${most} parameters.`,
  'code-host': () => 'Enter a host, like “count.measure.example”.',
  'code-hosts-count': ({ most }: { readonly most: number }) => `At most ${most} hosts.`,
  'code-reach': () => 'Choose a site, a path of a site, or a page.',
  'code-reach-count': ({ most }: { readonly most: number }) => `At most ${many(most)} sites, paths and pages.`,
  'piece-count': ({ most }: { readonly most: number }) => `A piece has 1 to ${most} blocks.`,
  'piece-in-piece': () => 'A piece can’t contain another piece. Unlink it first.',
  'brand-invalid': ({ most }: { readonly most: number }) =>
    `Enter the name that visitors read, at most ${most} characters.`,
  'language-invalid': () => 'Enter a language as pages say it, like “en” or “pt-BR”.',
  'too-many-values': ({ most }: { readonly most: number }) => `At most ${most} values.`,
  'value-name': ({ most }: { readonly most: number }) => `Use letters, digits and spaces, at most ${most}.`,
  'value-twice': () => 'A value with this name already exists.',
  'value-own': ({ name }: { readonly name: string }) => `{${name}} is filled in by itself.`,
  'value-too-long': ({ most }: { readonly most: number }) => `A value has at most ${many(most)} characters.`,
} satisfies Record<string, (params: never) => string>;

export type FaultCode = keyof typeof FAULTS;
type Params<Code extends FaultCode> = Parameters<(typeof FAULTS)[Code]>;

/** A fault by its code, with what its words need. */
export interface Said {
  readonly code: FaultCode;
  readonly params: object;
}

/** The words of a fault. */
export const faultWords = ({ code, params }: Said): string => (FAULTS[code] as (params: object) => string)(params);

/** A fault with its words. */
export interface Wrong extends Said {
  readonly message: string;
}

/** What is wrong, by code, with its words. */
export function wrong<Code extends FaultCode>(code: Code, ...[params]: Params<Code>): Wrong {
  const said = { code, params: params ?? {} };
  return { ...said, message: faultWords(said) };
}

/** Input that can't be taken, with what is wrong with it. */
export interface Refusal {
  readonly ok: false;
  readonly why: Wrong;
}

export const refusal = <Code extends FaultCode>(code: Code, ...params: Params<Code>): Refusal => ({
  ok: false,
  why: wrong(code, ...params),
});
