import "./lib/shell.js";
import "./lib/scene.js";
