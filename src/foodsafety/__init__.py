"""The pure core of Bulwark: what can hurt someone, and what proves it did not.

No Django, no clock, no network. Seconds and Celsius unless a name says otherwise.
"""
