/// <reference types="astro/client" />
declare namespace App {
  interface Locals {
    person: {
      readonly id: string
      readonly name: string
      readonly email: string
      readonly administrator: boolean
    } | null
  }
}
