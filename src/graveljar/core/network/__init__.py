"""How the parts are joined: rails, voltage windows, the schedule of the loads."""
