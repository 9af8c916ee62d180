import { type DragEvent, type KeyboardEvent, type RefObject, useRef, useState } from 'react'
import { changeCases } from '#core/cases/contract.ts'
import { createFolder, deleteFolder, listFolders, mirrorFolders, updateFolder } from '#core/cases/folder-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { go, useAddress } from '#ui/shell/address.ts'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { useMany } from '#ui/shell/many.ts'
import { type Direction, type FolderLine, folderLines, shifted } from './folders.ts'
import css from './FolderTree.module.css'

const rowsType = 'application/x-rovant-ids'
const folderType = 'application/x-rovant-folder'
/** The root, as something is dragged over it. */
const root = 0

/** What the tree is and what is going on in it. */
interface Tree {
  readonly rows: readonly FolderLine[]
  /** The folder that is shown, as the address names it. */
  readonly chosen: string | null
  readonly may: boolean
  readonly at: number
  readonly setAt: (at: number) => void
  readonly naming: number | 'new' | null
  readonly setNaming: (naming: number | 'new' | null) => void
  readonly over: number | null
  readonly setOver: (over: number | null) => void
  readonly writes: ReturnType<typeof useFolderWrites>
}

function useTree(): Tree {
  const { key, project } = useHere()
  const { params } = useAddress()
  const { data } = useAnswer(listFolders, { params: { key } }, { keep: true })
  const [at, setAt] = useState(0)
  const [naming, setNaming] = useState<Tree['naming']>(null)
  const [over, setOver] = useState<number | null>(null)
  return {
    rows: folderLines(data?.rows ?? []),
    chosen: params.get('folder'),
    may: project.role !== 'viewer',
    at,
    setAt,
    naming,
    setNaming,
    over,
    setOver,
    writes: useFolderWrites(),
  }
}

/** Shows the cases of a folder and of those below it, or all. */
const choose = (row: FolderLine | null): void =>
  go({
    params: {
      folder: row === null ? null : String(row.id),
      filter: row === null ? null : JSON.stringify({ field: 'folderId', op: 'is', values: row.below }),
    },
  })

/** The tree of folders: one chosen shows its cases and those below; folders and ticked cases are dragged, or moved by key. */
export function FolderTree({ onClose }: { onClose: () => void }) {
  const tree = useTree()
  const list = useRef<HTMLUListElement>(null)
  const { rows, chosen, naming, setNaming, over, writes } = tree
  return (
    <nav className={css['tree']} aria-label="Folders">
      <div className={css['top']}>
        <h2>Folders</h2>
        <Button look="word" onClick={onClose}>
          hide
        </Button>
      </div>
      <p className={css['all']} data-over={over === root || undefined} {...dropping(tree, null)}>
        <Button look="word" onClick={() => choose(null)}>
          All cases
        </Button>
      </p>
      <ul ref={list} role="tree" aria-label="Folders">
        {rows.map((row, index) => (
          <Line key={row.id} tree={tree} row={row} index={index} list={list} />
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
      {tree.may && <Acts tree={tree} />}
    </nav>
  )
}

interface LineProps {
  readonly tree: Tree
  readonly row: FolderLine
  readonly index: number
  readonly list: RefObject<HTMLUListElement | null>
}

function Line({ tree, row, index, list }: LineProps) {
  const { rows, chosen, may, at, setAt, naming, setNaming, over, writes } = tree
  return (
    <li
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
      onKeyDown={(event) => hear(event, { tree, row, index, list })}
      onDragStart={(event) => event.dataTransfer.setData(folderType, String(row.id))}
      {...dropping(tree, row)}
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
  )
}

const directions: Readonly<Record<string, Direction>> = {
  ArrowUp: 'up',
  ArrowDown: 'down',
  ArrowRight: 'in',
  ArrowLeft: 'out',
}

/** Arrows walk the tree; with Alt they move the folder. */
function hear(event: KeyboardEvent, { tree, row, index, list }: LineProps): void {
  const { rows, may, naming, writes } = tree
  const focus = (to: number) => {
    const next = Math.max(0, Math.min(rows.length - 1, to))
    tree.setAt(next)
    list.current?.querySelectorAll<HTMLElement>('[role=treeitem]')[next]?.focus()
  }
  const shift = (by: Direction | undefined) => {
    const place = by && shifted(rows, row, by)
    if (place) void writes.move(row.id, place)
  }
  const acts: Readonly<Record<string, () => void>> = {
    ArrowUp: () => focus(index - 1),
    ArrowDown: () => focus(index + 1),
    Home: () => focus(0),
    End: () => focus(rows.length - 1),
    Enter: () => choose(row),
    F2: () => tree.setNaming(row.id),
    Delete: () => void writes.remove(row.id, row.name),
  }
  const moves = event.altKey && event.key in directions
  const act = moves ? () => shift(directions[event.key]) : event.altKey ? undefined : acts[event.key]
  if (!act || naming !== null || (moves && !may)) return
  event.preventDefault()
  event.stopPropagation()
  act()
}

/** Folders and cases dropped on a folder go into it; on the root they go to the top. */
function dropping({ may, setOver, writes }: Tree, to: FolderLine | null) {
  return {
    onDragOver: (event: DragEvent) => {
      if (!may || ![rowsType, folderType].some((type) => event.dataTransfer.types.includes(type))) return
      event.preventDefault()
      setOver(to?.id ?? root)
    },
    onDragLeave: () => setOver(null),
    onDrop: (event: DragEvent) => {
      event.preventDefault()
      setOver(null)
      const parent = to?.id ?? null
      const folder = Number(event.dataTransfer.getData(folderType))
      const ids = event.dataTransfer.getData(rowsType).split(',').map(Number)
      const cases = ids.filter((id) => id > 0)
      if (folder > 0) void writes.move(folder, { parent, before: null })
      else if (cases.length > 0) void writes.file(cases, parent)
    },
  }
}

function Acts({ tree: { chosen, setNaming, writes } }: { tree: Tree }) {
  const { project } = useHere()
  return (
    <>
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
      <p className={css['hint']}>
        Drag, or <kbd>Alt</kbd> arrows move; <kbd>F2</kbd> renames, <kbd>Del</kbd> takes away
      </p>
    </>
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
