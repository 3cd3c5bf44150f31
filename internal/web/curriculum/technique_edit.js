import "./lib/shell.js";
import "./lib/notation.js";
