// On a busy machine what is waited for may take a while; it is seen as soon as it is there.
if (typeof document !== 'undefined') {
  const { configure } = await import('@testing-library/react')
  configure({ asyncUtilTimeout: 10_000 })
}

export {}
