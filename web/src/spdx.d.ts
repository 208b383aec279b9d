declare module 'spdx-license-ids' {
  const ids: string[]
  export default ids
}
