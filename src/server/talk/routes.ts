import * as contract from '#core/talk/contract.ts'
import { on, onOpen, type Route } from '#server/http/route.ts'
import { addFile, listAttachments, removeFile } from './attachments.ts'
import { chooseLetters, readLetters } from './send-letters.ts'
import { addComment, listComments, listInbox, readInbox } from './comments.ts'

/** What may be asked of this area, each endpoint once. */
export const talkRoutes: readonly Route[] = [
  on(contract.listComments, listComments),
  on(contract.addComment, addComment),
  on(contract.listInbox, listInbox),
  on(contract.readInbox, readInbox),
  onOpen(contract.readLetters, readLetters),
  on(contract.chooseLetters, chooseLetters),
  on(contract.listAttachments, listAttachments),
  onOpen(contract.addFile, addFile),
  on(contract.removeFile, removeFile),
]
