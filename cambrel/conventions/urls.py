from django.urls import path

from cambrel.conventions import views

app_name = "conventions"
urlpatterns = [path("conventions/", views.conventions, name="page"), path("conventions/home/", views.home, name="home")]
