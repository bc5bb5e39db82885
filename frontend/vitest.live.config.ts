import { mergeConfig } from 'vite'
import { defineConfig } from 'vitest/config'

import config from './vite.config'

/** Tests of the page's modules against a running server, which the Python tests start. */
export default mergeConfig(config, defineConfig({ test: { include: ['live/**/*.live.ts'], exclude: ['src/**'], environment: 'node', testTimeout: 180_000 } }))
