"""The pages for an address that is not there and for a fault of ours."""

from django.shortcuts import render


def not_found(request, exception):
    return render(request, "site/not_found.html", status=404)


def broken(request):
    return render(request, "site/broken.html", status=500)
