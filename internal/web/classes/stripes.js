import "./lib/shell.js";
import { colours } from "./lib/colours.js";

colours();
