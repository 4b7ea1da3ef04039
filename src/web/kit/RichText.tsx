import { chakra } from '@chakra-ui/react';
import { Node } from '@tiptap/core';
import { TableKit } from '@tiptap/extension-table';
import { EditorContent, useEditor, useEditorState } from '@tiptap/react';
import StarterKit from '@tiptap/starter-kit';
import { type ReactNode, useEffect, useId, useRef, useState } from 'react';
import { cleanDoc, docLimits, plainText, safeAddress, safeEmbed } from '#core/text/doc.ts';
import { type Doc, isEmptyDoc } from '#core/text/types.ts';
import { sameValue } from '#core/words/canonical.ts';
import { Asking } from './Asking.tsx';
import { Button } from './Button.tsx';
import { Group, TextField } from './Field.tsx';
import { Chip } from './ListViews.tsx';
import { richWordsIn } from './richWords.ts';
import { useKitWords } from './words.ts';

/** Styles that the editor makes carry the nonce that the server put into the page. */
const styleNonce = document.querySelector<HTMLMetaElement>('meta[name="style-nonce"]')?.content;

/** Beyond this many characters of markup, what is pasted comes as plain words: no page says that much. */
const mostMarkup = 400_000;

const Embed = Node.create({
  name: 'embed',
  group: 'block',
  atom: true,
  addAttributes: () => ({ src: { default: '' } }),
  renderHTML: ({ HTMLAttributes }) => ['div', { class: 'embed' }, String(HTMLAttributes.src)],
});
const Picture = Node.create({
  name: 'picture',
  group: 'block',
  atom: true,
  draggable: true,
  addAttributes: () => ({ id: { default: '' }, alt: { default: '' } }),
  renderHTML: ({ HTMLAttributes }) => [
    'img',
    { src: `/api/public/pictures/${HTMLAttributes.id}/800.webp`, alt: String(HTMLAttributes.alt) },
  ],
});

const Area = chakra('div', {
  base: {
    border: '1px solid',
    borderColor: 'rule',
    borderRadius: 'corner',
    background: 'sheet',
    '&:focus-within': { outline: '2px solid', outlineColor: 'verdigris', outlineOffset: '1px' },
    '& .ProseMirror': { minHeight: '140px', padding: '8px 10px', outline: 'none', overflowWrap: 'anywhere' },
    '& .ProseMirror p': { margin: '0 0 8px' },
    '& .ProseMirror td p, & .ProseMirror th p, & .ProseMirror li p': { margin: 0 },
    '& .ProseMirror h2, & .ProseMirror h3': { margin: '12px 0 4px' },
    '& .ProseMirror ul, & .ProseMirror ol': { paddingLeft: '22px', margin: '0 0 8px' },
    '& .ProseMirror ul': { listStyleType: 'disc' },
    '& .ProseMirror blockquote': { borderLeft: '2px solid', borderColor: 'rule', paddingLeft: '12px' },
    '& .ProseMirror table': { borderCollapse: 'collapse', width: '100%', tableLayout: 'fixed' },
    '& .ProseMirror th, & .ProseMirror td': {
      border: '1px solid',
      borderColor: 'line',
      padding: '4px 8px',
      textAlign: 'left',
      verticalAlign: 'top',
    },
    '& .ProseMirror img': { maxWidth: '100%', height: 'auto', display: 'block' },
    '& .ProseMirror .ProseMirror-selectednode': { outline: '2px solid', outlineColor: 'verdigris' },
    '& .ProseMirror .embed': {
      padding: '18px 12px',
      border: '1px dashed',
      borderColor: 'rule',
      color: 'soft',
      margin: '0 0 8px',
    },
    '& .ProseMirror a': { color: 'verdigris', textDecoration: 'underline' },
  },
});

/**
 * Formatted text: headings, lists, links, tables, pictures, and what other sites show in a frame. What is pasted is brought to
 * what a document holds; `picture` lets somebody choose a picture of ours.
 */
export function RichText({
  label,
  help,
  value,
  set,
  lang,
  headed,
  embeds = true,
  picture,
}: {
  label: string;
  headed?: boolean;
  /** Whether it can show something of another site in a frame. */
  embeds?: boolean;
  help?: ReactNode;
  value: Doc;
  set: (value: Doc) => void;
  lang?: string;
  picture?: (choose: (picture: { id: string; alt: string }) => void) => ReactNode;
}) {
  const words = richWordsIn[useKitWords().language];
  const labelled = useId();
  const [asking, setAsking] = useState<'link' | 'embed' | null>(null);
  const last = useRef(value);
  const editor = useEditor({
    ...(styleNonce && { injectNonce: styleNonce }),
    extensions: [
      StarterKit.configure({
        heading: { levels: [2, 3] },
        code: false,
        codeBlock: false,
        strike: false,
        underline: false,
        link: {
          openOnClick: false,
          protocols: ['mailto', 'tel'],
          isAllowedUri: (uri) => safeAddress(uri) !== null,
        },
      }),
      TableKit.configure({ table: { resizable: false } }),
      Embed,
      Picture,
    ],
    content: toWriteIn(value),
    immediatelyRender: true,
    editorProps: {
      attributes: {
        role: 'textbox',
        'aria-multiline': 'true',
        'aria-labelledby': labelled,
        ...(lang ? { lang } : {}),
      },
      transformPastedHTML: (html) =>
        html.length > mostMarkup
          ? (new DOMParser().parseFromString(html, 'text/html').body.textContent ?? '')
              .slice(0, docLimits.characters)
              .replace(/[&<>]/gu, ' ')
          : html,
    },
    onUpdate: ({ editor: e }) => {
      last.current = cleanDoc(e.getJSON());
      set(last.current);
    },
  });
  // What came from elsewhere, such as an undo or another person, stands there; what is typed is never put back.
  useEffect(() => {
    if (value === last.current || sameValue(value, last.current)) return;
    last.current = value;
    editor.commands.setContent(toWriteIn(value), { emitUpdate: false });
  }, [editor, value]);
  const on = useEditorState({
    editor,
    selector: ({ editor: e }) => ({
      bold: e.isActive('bold'),
      italic: e.isActive('italic'),
      heading: e.isActive('heading', { level: 2 }),
      small: e.isActive('heading', { level: 3 }),
      list: e.isActive('bulletList'),
      numbers: e.isActive('orderedList'),
      quote: e.isActive('blockquote'),
      link: e.isActive('link'),
      table: e.isActive('table'),
    }),
  });
  const length = plainText(value).length;
  const chain = () => editor.chain().focus();
  const tools: { key: string; on?: boolean; run: () => unknown }[] = [
    { key: 'bold', on: on.bold, run: () => chain().toggleBold().run() },
    { key: 'italic', on: on.italic, run: () => chain().toggleItalic().run() },
    { key: 'heading', on: on.heading, run: () => chain().toggleHeading({ level: 2 }).run() },
    { key: 'small', on: on.small, run: () => chain().toggleHeading({ level: 3 }).run() },
    { key: 'list', on: on.list, run: () => chain().toggleBulletList().run() },
    { key: 'numbers', on: on.numbers, run: () => chain().toggleOrderedList().run() },
    { key: 'quote', on: on.quote, run: () => chain().toggleBlockquote().run() },
    { key: 'link', on: on.link, run: () => (on.link ? chain().unsetLink().run() : setAsking('link')) },
    ...(on.table
      ? [
          { key: 'row', run: () => chain().addRowAfter().run() },
          { key: 'column', run: () => chain().addColumnAfter().run() },
          { key: 'lessRow', run: () => chain().deleteRow().run() },
          { key: 'lessColumn', run: () => chain().deleteColumn().run() },
          { key: 'noTable', run: () => chain().deleteTable().run() },
        ]
      : [{ key: 'table', run: () => chain().insertTable({ rows: 3, cols: 2, withHeaderRow: true }).run() }]),
    ...(embeds ? [{ key: 'embed', run: () => setAsking('embed') }] : []),
  ];
  return (
    <Group label={<span id={labelled}>{label}</span>} help={help} headed={headed}>
      <Area>
        <chakra.div
          role="toolbar"
          aria-label={words.formatting(label)}
          display="flex"
          flexWrap="wrap"
          gap="4px"
          padding="6px"
          borderBottom="1px solid"
          borderColor="line"
        >
          {tools.map((tool) => (
            <Chip
              key={tool.key}
              {...(tool.on === undefined ? {} : { 'aria-pressed': tool.on })}
              // The selection stays where it is.
              onMouseDown={(e) => e.preventDefault()}
              onClick={tool.run}
            >
              {words.format[tool.key as keyof typeof words.format]}
            </Chip>
          ))}
          {picture?.((attrs) => chain().insertContent({ type: 'picture', attrs }).run())}
        </chakra.div>
        <EditorContent editor={editor} />
      </Area>
      {length > docLimits.characters * 0.9 && (
        <chakra.div color="ochre" fontSize="13.5px">
          {words.ofMost(length, docLimits.characters)}
        </chakra.div>
      )}
      {asking && (
        <AskAddress
          what={asking}
          close={() => setAsking(null)}
          take={(address) => {
            if (asking === 'embed')
              chain()
                .insertContent({ type: 'embed', attrs: { src: address } })
                .run();
            else if (editor.state.selection.empty)
              chain()
                .insertContent({
                  type: 'text',
                  text: address,
                  marks: [{ type: 'link', attrs: { href: address } }],
                })
                .run();
            else chain().setLink({ href: address }).run();
            setAsking(null);
          }}
        />
      )}
    </Group>
  );
}

/** A document with a place to write in: in one without any, all of it would be chosen, and what is typed replace it. */
const toWriteIn = (doc: Doc): Doc =>
  isEmptyDoc(doc) ? { type: 'doc', content: [{ type: 'paragraph' }] } : doc;

/** Asks where a link leads, or what is shown in a frame. */
function AskAddress({
  what,
  take,
  close,
}: {
  what: 'link' | 'embed';
  take: (address: string) => void;
  close: () => void;
}) {
  const words = richWordsIn[useKitWords().language];
  const [typed, setTyped] = useState('');
  const [wrong, setWrong] = useState(false);
  const submit = () => {
    const read = what === 'link' ? safeAddress(withScheme(typed)) : safeEmbed(typed.trim());
    if (read) take(read);
    else setWrong(true);
  };
  return (
    <Asking
      open
      close={close}
      title={words.format[what]}
      actions={
        <Button look="main" onClick={submit}>
          {words.insert}
        </Button>
      }
    >
      <form
        onSubmit={(e) => {
          e.preventDefault();
          submit();
        }}
      >
        <TextField
          label={words.address}
          value={typed}
          set={(text) => {
            setTyped(text);
            setWrong(false);
          }}
          autoFocus
          inputMode="url"
          error={wrong ? (what === 'link' ? words.noAddress : words.noEmbed) : undefined}
          help={what === 'embed' ? words.embedHelp : undefined}
        />
      </form>
    </Asking>
  );
}

/** An address as people type it: a web page unless it says otherwise, an email where it looks like one. */
function withScheme(typed: string): string {
  const text = typed.trim();
  if (/^[a-z][a-z\d+.-]*:/iu.test(text)) return text;
  return /^[^\s@/]+@[^\s@/]+$/u.test(text) ? `mailto:${text}` : `https://${text}`;
}
