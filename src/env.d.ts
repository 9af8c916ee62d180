/// <reference types="astro/client" />
declare namespace App {
  interface Locals {
    /** Who asks for a page; nobody is signed in where it is `null`. */
    asker: import('#server/http/permission.ts').Asker | null
  }
}
