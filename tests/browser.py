"""How Debian's Chromium is started for the tests."""

IDLE = (
    # Each new window warms up pages for an address bar that no test has: a second of a processor.
    *("WebUIOmniboxPopup", "WebUIOmniboxFullPopup", "WebUIOmniboxAimPopup", "AimEnabled"),
    # What Playwright leaves out as well: the last list of features counts alone.
    *("HttpsFirstBalancedModeAutoEnable", "HttpsUpgrades", "LensOverlay", "MediaRouter"),
    *("NetworkTimeServiceQuerying", "OptimizationHints", "PaintHolding", "PreconnectToSearch"),
    *("AvoidUnnecessaryBeforeUnloadCheckSync", "DestroyProfileOnBrowserClose"),
    *("ThirdPartyStoragePartitioning",),
)
BARE = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-background-networking",
    # Windows of one address share what they have read of the interface.
    "--process-per-site",
    f"--disable-features={','.join(IDLE)}",
]
