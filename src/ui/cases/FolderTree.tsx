import { type DragEvent, type KeyboardEvent, useRef, useState } from 'react'
import { changeCases } from '#core/cases/contract.ts'
import { createFolder, deleteFolder, listFolders, mirrorFolders, updateFolder } from '#core/cases/folder-contract.ts'
import type { OutputOf } from '#core/lib/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { go, useAddress } from '#ui/shell/address.ts'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { useMany } from '#ui/shell/many.ts'
import css from './FolderTree.module.css'

type Folder = OutputOf<typeof listFolders>['rows'][number]
interface Shown extends Folder {
  readonly depth: number
  /** With those below it. */
  readonly whole: number
  readonly below: readonly number[]
}
const rowsType = 'application/x-rovant-ids'
const folderType = 'application/x-rovant-folder'

function shownOf(rows: readonly Folder[]): Shown[] {
  const walk = (parent: number | null, depth: number): Shown[] =>
    rows
      .filter((row) => row.parent === parent)
      .flatMap((row) => {
        const inside = walk(row.id, depth + 1)
        return [
          {
            ...row,
            depth,
            whole:
              row.cases + inside.filter((each) => each.parent === row.id).reduce((sum, each) => sum + each.whole, 0),
            below: [row.id, ...inside.map(({ id }) => id)],
          },
          ...inside,
        ]
      })
  return walk(null, 0)
}

/** The tree of folders: one chosen shows its cases and those below; folders and ticked cases are dragged, or moved by key. */
export function FolderTree({ onClose }: { onClose: () => void }) {
  const { key, project } = useHere()
  const { params } = useAddress()
  const { data } = useAnswer(listFolders, { params: { key } }, { keep: true })
  const writes = useFolderWrites()
  const [at, setAt] = useState(0)
  const [naming, setNaming] = useState<number | 'new' | null>(null)
  const [over, setOver] = useState<number | null>(null)
  const tree = useRef<HTMLUListElement>(null)
  const rows = shownOf(data?.rows ?? [])
  const chosen = params.get('folder')
  const may = project.role !== 'viewer'
  const choose = (row: Shown | null) =>
    go({
      params: {
        folder: row === null ? null : String(row.id),
        filter: row === null ? null : JSON.stringify({ field: 'folderId', op: 'is', values: row.below }),
      },
    })
  const focus = (index: number) => {
    const next = Math.max(0, Math.min(rows.length - 1, index))
    setAt(next)
    tree.current?.querySelectorAll<HTMLElement>('[role=treeitem]')[next]?.focus()
  }
  const siblings = (row: Shown) => rows.filter(({ parent }) => parent === row.parent)
  const shift = (row: Shown, by: 'up' | 'down' | 'in' | 'out') => {
    const own = siblings(row)
    const place = own.findIndex(({ id }) => id === row.id)
    const above = own[place - 1]
    const parent = rows.find(({ id }) => id === row.parent)
    if (by === 'up' && above) void writes.move(row.id, { parent: row.parent, before: above.id })
    if (by === 'down' && own[place + 1])
      void writes.move(row.id, { parent: row.parent, before: own[place + 2]?.id ?? null })
    if (by === 'in' && above) void writes.move(row.id, { parent: above.id, before: null })
    if (by === 'out' && parent)
      void writes.move(row.id, {
        parent: parent.parent,
        before: siblings(parent)[siblings(parent).findIndex(({ id }) => id === parent.id) + 1]?.id ?? null,
      })
  }
  const hear = (event: KeyboardEvent, row: Shown, index: number) => {
    const acts: Readonly<Record<string, () => void>> = event.altKey
      ? {
          ArrowUp: () => shift(row, 'up'),
          ArrowDown: () => shift(row, 'down'),
          ArrowRight: () => shift(row, 'in'),
          ArrowLeft: () => shift(row, 'out'),
        }
      : {
          ArrowUp: () => focus(index - 1),
          ArrowDown: () => focus(index + 1),
          Home: () => focus(0),
          End: () => focus(rows.length - 1),
          Enter: () => choose(row),
          F2: () => setNaming(row.id),
          Delete: () => void writes.remove(row.id, row.name),
        }
    const act = acts[event.key]
    if (!act || naming !== null || (event.altKey && !may)) return
    event.preventDefault()
    event.stopPropagation()
    act()
  }
  const drop = (event: DragEvent, to: Shown | null) => {
    event.preventDefault()
    setOver(null)
    const folder = Number(event.dataTransfer.getData(folderType))
    const ids = event.dataTransfer
      .getData(rowsType)
      .split(',')
      .map(Number)
      .filter((id) => id > 0)
    if (folder > 0) void writes.move(folder, { parent: to?.id ?? null, before: null })
    else if (ids.length > 0) void writes.file(ids, to?.id ?? null)
  }
  const allow = (event: DragEvent, id: number) => {
    if (may && [rowsType, folderType].some((type) => event.dataTransfer.types.includes(type))) {
      event.preventDefault()
      setOver(id)
    }
  }
  return (
    <nav className={css['tree']} aria-label="Folders">
      <div className={css['top']}>
        <h2>Folders</h2>
        <Button look="word" onClick={onClose}>
          hide
        </Button>
      </div>
      <p
        className={css['all']}
        data-over={over === 0 || undefined}
        onDragOver={(event) => allow(event, 0)}
        onDragLeave={() => setOver(null)}
        onDrop={(event) => drop(event, null)}
      >
        <Button look="word" onClick={() => choose(null)}>
          All cases
        </Button>
      </p>
      <ul ref={tree} role="tree" aria-label="Folders">
        {rows.map((row, index) => (
          <li
            key={row.id}
            role="treeitem"
            aria-level={row.depth + 1}
            aria-selected={chosen === String(row.id)}
            tabIndex={index === Math.min(at, rows.length - 1) ? 0 : -1}
            draggable={may && naming === null}
            data-over={over === row.id || undefined}
            style={{ paddingInlineStart: 6 + row.depth * 14 }}
            onClick={() => {
              setAt(index)
              choose(row)
            }}
            onKeyDown={(event) => hear(event, row, index)}
            onDragStart={(event) => event.dataTransfer.setData(folderType, String(row.id))}
            onDragOver={(event) => allow(event, row.id)}
            onDragLeave={() => setOver(null)}
            onDrop={(event) => drop(event, row)}
          >
            {naming === row.id ? (
              <Name
                name={row.name}
                onName={async (name) => {
                  setNaming(null)
                  if (name !== null && name !== row.name) await writes.move(row.id, { name })
                }}
              />
            ) : (
              <>
                <span className={css['name']} title={row.name} onDoubleClick={() => may && setNaming(row.id)}>
                  {row.name}
                </span>
                <span className={css['count']}>{row.whole}</span>
              </>
            )}
          </li>
        ))}
      </ul>
      {naming === 'new' && (
        <Name
          name=""
          onName={async (name) => {
            setNaming(null)
            if (name !== null && name !== '') await writes.add(name, chosen === null ? null : Number(chosen))
          }}
        />
      )}
      {may && (
        <p className={css['acts']}>
          <Button look="word" onClick={() => setNaming('new')}>
            new folder{chosen !== null && ' in this'}
          </Button>
          {project.role === 'lead' && (
            <Button look="word" onClick={() => void writes.mirror()}>
              mirror the requirements
            </Button>
          )}
        </p>
      )}
      {may && (
        <p className={css['hint']}>
          Drag, or <kbd>Alt</kbd> arrows move; <kbd>F2</kbd> renames, <kbd>Del</kbd> takes away
        </p>
      )}
    </nav>
  )
}

function Name({ name, onName }: { name: string; onName: (name: string | null) => void }) {
  const [text, setText] = useState(name)
  return (
    <input
      className={css['input']}
      aria-label="Name of the folder"
      autoFocus
      value={text}
      onChange={(event) => setText(event.target.value)}
      onClick={(event) => event.stopPropagation()}
      onBlur={() => onName(text.trim())}
      onKeyDown={(event) => {
        event.stopPropagation()
        if (event.key === 'Enter') event.currentTarget.blur()
        if (event.key === 'Escape') onName(null)
      }}
    />
  )
}

function useFolderWrites() {
  const { key } = useHere()
  const creating = useWrite(createFolder)
  const updating = useWrite(updateFolder)
  const deleting = useWrite(deleteFolder)
  const mirroring = useWrite(mirrorFolders)
  const many = useMany(changeCases, { params: { key }, one: 'case', nothing: {} })
  return {
    add: (name: string, parent: number | null) => creating.attempt({ params: { key }, body: { name, parent } }),
    move: (id: number, to: { name?: string; parent?: number | null; before?: number | null }) =>
      updating.attempt({ params: { key, id }, body: to }),
    remove: async (id: number, name: string) => {
      const done = await deleting.attempt({ params: { key, id } })
      if (done) notify(`${name} is taken away; its ${done.cases.length} cases stand in the folder above.`)
    },
    file: (ids: readonly number[], folderId: number | null) => many.set(ids, { folderId }),
    mirror: async () => {
      const dry = await mirroring.attempt({ params: { key }, body: { dry: true } })
      if (!dry) return
      if (dry.folders + dry.cases === 0) return notify('The folders mirror the requirements already.')
      notify(`${dry.folders} folders would be made and ${dry.cases} cases moved.`, {
        undoLabel: 'Do it',
        undo: () =>
          void mirroring.attempt({ params: { key }, body: {} }).then((done) => {
            if (done) many.tell({ changed: done.cases, undo: done.undo })
          }),
      })
    },
  }
}
