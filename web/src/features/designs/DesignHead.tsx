import { writeDesignSvg } from '@kestfog/core/design';
import type { DesignView } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { Redo2, Undo2 } from 'lucide-react';
import { useState } from 'react';
import { msgNodes } from '../../ui/msg-nodes.js';
import { fileName, saveFile } from '../../ui/save-file.js';
import type { Editor } from './use-editor.js';

const SAVED = { saved: msg`kept`, waiting: msg`kept on this device`, refused: msg`not kept` } as const;

/** What a design is called, whether it is kept, and what can be done with it as a whole. */
export function DesignHead({
  head,
  view,
  editor,
  children,
}: {
  readonly head: React.ReactNode;
  readonly view: DesignView;
  readonly editor: Editor;
  readonly children: React.ReactNode;
}) {
  const { name } = editor.design;
  return (
    <div className="flex flex-wrap items-center gap-2">
      {head}
      <button type="button" className="btn btn-square ml-3" aria-label={msg`undo`} disabled={!editor.canUndo} onClick={editor.undo}>
        <Undo2 aria-hidden />
      </button>
      <button type="button" className="btn btn-square" aria-label={msg`redo`} disabled={!editor.canRedo} onClick={editor.redo}>
        <Redo2 aria-hidden />
      </button>
      <span className="text-lg opacity-80">{msgNodes`version ${view.version}`}</span>
      {/* As wide as its longest word: the cookie must not jump under the pen while something is sent. */}
      <span role="status" className={`text-lg min-w-44 ${editor.saved === 'refused' ? 'text-error font-medium' : 'opacity-80'}`}>
        {SAVED[editor.saved]}
      </span>
      <span className="grow" />
      <button
        type="button"
        className="btn btn-ghost"
        onClick={() => saveFile(fileName(name, 'svg'), 'image/svg+xml', writeDesignSvg({ ...view.document, edits: editor.edits }))}
      >
        {msg`Save as a drawing`}
      </button>
      {children}
    </div>
  );
}

/** What the design is called: another name is an edit like any other. */
export function DesignName({ name, onName }: { readonly name: string; readonly onName: (name: string) => void }) {
  const [text, setText] = useState(name);
  const keep = () => {
    const said = text.trim();
    if (said === '') setText(name);
    else if (said !== name) onName(said);
  };
  return (
    <label className="flex items-center gap-2 text-lg min-h-11">
      {msg`called`}
      <input
        className="input w-44"
        aria-label={msg`name of the design`}
        maxLength={80}
        value={text}
        onChange={(e) => setText(e.target.value)}
        onBlur={keep}
        onKeyDown={(e) => e.key === 'Enter' && keep()}
      />
    </label>
  );
}
