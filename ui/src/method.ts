import { followTheme } from "./shell/settings";
import "./styles.css";

followTheme();
