import "./lib/shell.js";
import "./lib/arriving.js";
