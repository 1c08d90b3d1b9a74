"""How much picture a format carries, against the CTA-861 video timings.

Source: CTA-861 video identification codes as listed by edid-decode (Debian package, `edid-decode --list-vics`)
and the Linux kernel header v4l2-dv-timings.h: VIC, picture, pixel clock in MHz.
"""

import pytest

from isotact.core.planning.ways.simple_ways import pixels_rate

CLOCKS_MHZ = {
    "720p60": 74.25,  # VIC 4
    "1080p24": 74.25,  # VIC 32
    "1080p30": 74.25,  # VIC 34
    "1080p60": 148.5,  # VIC 16
    "2160p24": 297.0,  # VIC 93
    "2160p30": 297.0,  # VIC 95
    "2160p60": 594.0,  # VIC 97
}


@pytest.mark.parametrize("one", CLOCKS_MHZ)
@pytest.mark.parametrize("other", CLOCKS_MHZ)
def test_a_slower_clock_never_carries_more_picture(one: str, other: str):
    if CLOCKS_MHZ[one] < CLOCKS_MHZ[other]:
        assert pixels_rate(one) < pixels_rate(other)


@pytest.mark.parametrize(
    ("one", "other", "times"), [("1080p60", "1080p30", 2), ("2160p30", "1080p30", 4), ("2160p60", "1080p60", 4)]
)
def test_the_ratio_of_two_formats_is_that_of_their_clocks(one: str, other: str, times: float):
    assert pixels_rate(one) / pixels_rate(other) == times == CLOCKS_MHZ[one] / CLOCKS_MHZ[other]
