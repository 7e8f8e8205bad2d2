"""The regressions of statsmodels, loaded when somebody looks back: they take seconds to load, and most never do."""

from typing import Any

from yellow_abacus.core.ground.money import Floats, Ints


def poisson(counts: Ints, columns: Floats) -> Any:
    """A Poisson regression of counts on columns, to be fitted."""
    from statsmodels.genmod.families import Poisson
    from statsmodels.genmod.generalized_linear_model import GLM

    return GLM(counts, columns, family=Poisson())


def spread_counts(counts: Ints, columns: Floats, dispersion: float) -> Any:
    """A negative binomial regression of known dispersion, to be fitted."""
    from statsmodels.genmod.families import NegativeBinomial
    from statsmodels.genmod.generalized_linear_model import GLM

    return GLM(counts, columns, family=NegativeBinomial(alpha=dispersion))


def dispersion(counts: Ints, columns: Floats, start: Floats) -> float:
    """The dispersion of a negative binomial regression, fitted with its coefficients; 0 where it vanishes or cannot
    be found. start: coefficients and dispersion to begin with."""
    import warnings

    from statsmodels.discrete.discrete_model import NegativeBinomial
    from statsmodels.tools.sm_exceptions import ConvergenceWarning, HessianInversionWarning

    with warnings.catch_warnings():
        for kind in (ConvergenceWarning, HessianInversionWarning, RuntimeWarning):
            warnings.simplefilter("ignore", kind)
        found = NegativeBinomial(counts, columns).fit(start_params=start, disp=False, maxiter=200)
    return float(found.params[-1]) if found.mle_retvals["converged"] else 0.0


def smooth_course(time: Floats, bends: int) -> Floats:
    """Columns of a natural cubic spline with so many degrees of freedom, the level among them. time: 0 to 1."""
    import numpy as np
    from patsy import dmatrix

    return np.asarray(dmatrix(f"cr(time, df={bends}) - 1", {"time": time}))
