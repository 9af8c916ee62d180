import * as contract from '#core/people/contract.ts'
import * as members from '#core/people/members-contract.ts'
import * as own from '#core/people/own-contract.ts'
import * as people from '#core/people/people-contract.ts'
import * as signOn from '#core/people/sign-on-contract.ts'
import * as security from '#core/people/security-contract.ts'
import { on, onOpen, type Route } from '#server/http/route.ts'
import { inviteMembers, invitePeople, makeLink } from './invite.ts'
import { createGroup, deleteGroup, listGroups, updateGroup } from './keep-groups.ts'
import { addAbsence, dropAbsence, handOver, removeMember, updateHours, updateMember } from './keep-members.ts'
import { dropFactorOf, endSignInsOf, listPeople, setRole, updatePerson } from './keep-people.ts'
import {
  changePassword,
  dropPicture,
  endOtherSignIns,
  endSignIn,
  endToken,
  listSignIns,
  listTokens,
  makeToken,
  readPicture,
  setPicture,
  updateMe,
} from './own-page.ts'
import { askNewPassword, choosePassword, lookAtLink } from './password-links.ts'
import { readMember } from './read-member.ts'
import { listSecurityEvents, securityEventsCsv } from './read-security.ts'
import {
  beginSecondFactor,
  confirmSecondFactor,
  dropSecondFactor,
  newRecoveryCodes,
  readSecondFactor,
} from './second-factor.ts'
import { readSignOn, updateSignOn } from './single-sign-on.ts'
import { readMe, signIn, signInWithCode, signOut } from './sign-in.ts'

/** What may be asked of this area, each endpoint once. */
export const peopleRoutes: readonly Route[] = [
  onOpen(contract.signIn, signIn),
  onOpen(contract.signInWithCode, signInWithCode),
  onOpen(contract.signOut, signOut),
  onOpen(contract.askNewPassword, askNewPassword),
  onOpen(contract.lookAtLink, lookAtLink),
  onOpen(contract.choosePassword, choosePassword),
  on(contract.readMe, readMe),
  on(own.updateMe, updateMe),
  onOpen(own.setPicture, setPicture),
  on(own.dropPicture, dropPicture),
  onOpen(own.readPicture, readPicture),
  onOpen(own.changePassword, changePassword),
  on(own.listSignIns, listSignIns),
  onOpen(own.endSignIn, endSignIn),
  onOpen(own.endOtherSignIns, endOtherSignIns),
  on(own.listTokens, listTokens),
  onOpen(own.makeToken, makeToken),
  on(own.endToken, endToken),
  onOpen(own.readSecondFactor, readSecondFactor),
  onOpen(own.beginSecondFactor, beginSecondFactor),
  onOpen(own.confirmSecondFactor, confirmSecondFactor),
  onOpen(own.dropSecondFactor, dropSecondFactor),
  onOpen(own.newRecoveryCodes, newRecoveryCodes),
  onOpen(members.inviteMembers, inviteMembers),
  on(members.readMember, readMember),
  on(members.updateMember, updateMember),
  on(members.removeMember, removeMember),
  on(members.handOver, handOver),
  on(members.updateHours, updateHours),
  on(members.addAbsence, addAbsence),
  on(members.dropAbsence, dropAbsence),
  on(people.listPeople, listPeople),
  onOpen(people.invitePeople, invitePeople),
  onOpen(people.updatePerson, updatePerson),
  onOpen(people.endSignInsOf, endSignInsOf),
  onOpen(people.makeLink, makeLink),
  onOpen(people.dropFactorOf, dropFactorOf),
  on(people.setRole, setRole),
  on(people.listGroups, listGroups),
  on(people.createGroup, createGroup),
  on(people.updateGroup, updateGroup),
  on(people.deleteGroup, deleteGroup),
  onOpen(signOn.readSignOn, readSignOn),
  onOpen(signOn.updateSignOn, updateSignOn),
  on(security.listSecurityEvents, listSecurityEvents),
  onOpen(security.securityEventsCsv, securityEventsCsv),
]
