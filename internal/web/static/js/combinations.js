import "./lib/shell.js";
