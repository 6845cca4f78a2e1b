"""Diffraction at small apertures. Micrometres on the sensor, nanometres of wavelength.

Source: "Principles of Optics", Fraunhofer diffraction at a circular aperture.
"""

from __future__ import annotations

from cambrel.optics.quantities import Quantity, not_negative, positive

AIRY_FACTOR = 2 * 1.2196698912665045
"""Diameter of the first dark ring in units of lambda N: twice the first zero of the Bessel function J1 over pi (texts
round it to 2.44).
"""

WAVELENGTH_NM = 550.0
"""Green, where the eye and most sensors are most sensitive."""


def airy_disc_um(
    f_number: Quantity, magnification: Quantity = 0.0, wavelength_nm: Quantity = WAVELENGTH_NM
) -> Quantity:
    """Diameter of the first dark ring of a point's image, 2 x 1.2197 lambda N (1 + m).

    Parameters
        f_number: scalar or array
        magnification: of the subject, scalar or array
        wavelength_nm: [nm]
    Returns
        [um] on the sensor

    >>> round(airy_disc_um(8), 3)
    10.733
    """
    n = positive("f_number", f_number)
    m = not_negative("magnification", magnification)
    return AIRY_FACTOR * positive("wavelength_nm", wavelength_nm) / 1000 * n * (1 + m)


def diffraction_limited_f_number(
    criterion_um: Quantity, magnification: Quantity = 0.0, wavelength_nm: Quantity = WAVELENGTH_NM
) -> Quantity:
    """F-number at which the Airy disc reaches a criterion; the inverse of airy_disc_um.

    Parameters
        criterion_um: the circle of confusion, or twice the pixel pitch [um]
        magnification: of the subject
        wavelength_nm: [nm]
    Returns
        f-number
    """
    c = positive("criterion_um", criterion_um)
    m = not_negative("magnification", magnification)
    return c * 1000 / (AIRY_FACTOR * positive("wavelength_nm", wavelength_nm) * (1 + m))
