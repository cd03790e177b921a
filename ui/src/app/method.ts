import { followTheme } from "../lib/settings";
import "./styles.css";

followTheme();
