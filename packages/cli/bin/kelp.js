#!/usr/bin/env node
import '../dist/kelp.js';
