#!/usr/bin/env node
import '../dist/fogbath.js'
